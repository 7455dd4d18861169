package dev.nachlauf.core.run;

import dev.nachlauf.core.load.LoadPlanner;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.RowFlow;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.system.Target.FieldSet;
import dev.nachlauf.core.system.Target.Keys;
import dev.nachlauf.core.system.Target.Stored;
import dev.nachlauf.core.system.Target.StoredRecord;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.UnitId;
import dev.nachlauf.core.value.Values;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Brings a batch to its end that one connection has committed and another has not, because a crash came between the two.
 * What the ledger says of the rest is done as it stands there; nothing is computed a second time. Where somebody has
 * changed a record since, or the target refuses it now, the row is rejected together with its group, and the reject says
 * what has been written of it.
 */
final class HalfWritten {
    private static final Problem CHANGED = Problem.of(
            ProblemCode.CHANGED_MEANWHILE,
            "Somebody changed the record after the run was interrupted.",
            "Send the row again.");

    private final Plan plan;
    private final Targets targets;
    private final RunRecords records;
    private final Survey.RowSupply source;
    private final BatchLedger ledger;
    private final String run;
    private final long epoch;

    HalfWritten(Plan plan, Targets targets, RunRecords records, Survey.RowSupply source, String run, long epoch) {
        this.plan = plan;
        this.targets = targets;
        this.records = records;
        this.source = source;
        this.ledger = new BatchLedger(plan);
        this.run = run;
        this.epoch = epoch;
    }

    /** @param open the connections in which nothing of the batch was committed */
    void finish(Chunk chunk, Set<Integer> open) {
        List<LedgerRow> rows = ledger.rows(chunk);
        Map<Long, List<Problem>> refused = new HashMap<>();
        Set<Long> groups = new HashSet<>();
        while (true) {
            int before = groups.size();
            try (Work work = targets.begin(new UnitId(run, epoch, chunk.head().batch()))) {
                Set<Integer> changed = apply(work, rows, open, refused, groups);
                if (groups.size() == before) {
                    commit(work, chunk, rows, open, changed, refused, groups);
                    return;
                }
            }
        }
    }

    /** The connections in which something was changed; ends early where rows are refused whose groups must go first. */
    private Set<Integer> apply(
            Work work, List<LedgerRow> rows, Set<Integer> open, Map<Long, List<Problem>> refused, Set<Long> groups) {
        Set<Integer> changed = new TreeSet<>();
        int before = groups.size();
        for (int w = 0; w < plan.writes().size() && groups.size() == before; w++) {
            int write = w;
            if (open.contains(targets.connection(w))) {
                List<LedgerRow> left = rows.stream()
                        .filter(row -> row.write() == write && row.wrote() && !groups.contains(row.group()))
                        .toList();
                if (!left.isEmpty() && apply(work, w, left, refused, groups)) {
                    changed.add(targets.connection(w));
                }
            }
        }
        return changed;
    }

    private boolean apply(
            Work work, int index, List<LedgerRow> rows, Map<Long, List<Problem>> refused, Set<Long> groups) {
        PlannedWrite write = plan.writes().get(index);
        List<Object[]> keys =
                rows.stream().map(row -> key(row, write)).collect(Collectors.toCollection(ArrayList::new));
        Stored stored = targets.of(index).find(new Keys(write.keyNames(), keys), new FieldSet(write.fieldNames()));
        List<Change> changes = new ArrayList<>();
        List<LedgerRow> changing = new ArrayList<>();
        for (int i = 0; i < rows.size(); i++) {
            Change change = change(rows.get(i), keys.get(i), write, stored, i);
            if (change == null) {
                refuse(rows.get(i), List.of(CHANGED), refused, groups);
            } else {
                changes.add(change);
                changing.add(rows.get(i));
            }
        }
        List<Answer> answers = changes.isEmpty() ? List.of() : work.apply(index, changes);
        boolean any = false;
        for (int i = 0; i < answers.size(); i++) {
            switch (answers.get(i)) {
                case Answer.Done ignored -> any = true;
                case Answer.Refused problem -> refuse(changing.get(i), problem.problems(), refused, groups);
                case Answer.Moved ignored -> refuse(changing.get(i), List.of(CHANGED), refused, groups);
                case Answer.Unknown ignored -> refuse(changing.get(i), List.of(BatchWriter.UNKNOWN), refused, groups);
            }
        }
        return any;
    }

    private static void refuse(
            LedgerRow row, List<Problem> problems, Map<Long, List<Problem>> refused, Set<Long> groups) {
        refused.putIfAbsent(row.position(), problems);
        groups.add(row.group());
    }

    private static Object[] key(LedgerRow row, PlannedWrite write) {
        return Objects.requireNonNull(row.key()).subList(0, write.key().size()).toArray();
    }

    /** What the ledger says, over what is there now; null where that is no longer what it was. */
    private static @Nullable Change change(LedgerRow row, Object[] key, PlannedWrite write, Stored stored, int index) {
        int fields = write.fields().size();
        if (row.outcome() == Outcome.INSERTED) {
            Object id = hasIdOfItsOwn(write) ? row.id() : null;
            return stored.matches(index) == 0
                    ? new Change.Insert(row.position(), row.group(), key, id, Arrays.copyOf(row.after(), fields))
                    : null;
        }
        if (stored.matches(index) != 1 || !Values.same(stored.record(index).id(), row.id())) {
            return null;
        }
        StoredRecord record = stored.record(index);
        @Nullable Object[] before = new Object[fields];
        @Nullable Object[] after = new Object[fields];
        for (int field = 0; field < fields; field++) {
            before[field] = record.value(field);
            after[field] = row.changed().get(field) ? row.after()[field] : before[field];
            if (row.changed().get(field) && !record.same(field, row.before()[field])) {
                return null;
            }
        }
        Object id = Objects.requireNonNull(row.id());
        return new Change.Update(row.position(), row.group(), key, id, record.mark(), before, after, row.changed());
    }

    /** Whether records have an id that is no mapped field: then it is the one that the ledger knows. */
    private static boolean hasIdOfItsOwn(PlannedWrite write) {
        return write.target()
                .primaryKey()
                .map(UniqueKey::fields)
                .filter(id -> id.size() == 1 && !write.fieldNames().containsAll(id))
                .isPresent();
    }

    private void commit(
            Work work,
            Chunk chunk,
            List<LedgerRow> rows,
            Set<Integer> open,
            Set<Integer> changed,
            Map<Long, List<Problem>> refused,
            Set<Long> groups) {
        Map<Long, List<Problem>> said = new HashMap<>();
        List<LedgerRow> now = new ArrayList<>();
        for (LedgerRow row : rows) {
            boolean lost =
                    open.contains(targets.connection(row.write())) && groups.contains(row.group()) && row.wrote();
            now.add(lost ? row.refused(said.computeIfAbsent(row.position(), any -> said(row, refused, open))) : row);
        }
        SortedMap<Integer, Token> tokens = work.tokens(changed);
        Chunk corrected = ledger.corrected(chunk, now, rejects(rows, said), tokens);
        records.replace(corrected);
        work.commit(changed, () -> {});
        if (!tokens.isEmpty()) {
            records.settled(List.of(chunk.head().batch()));
        }
    }

    private List<Problem> said(LedgerRow row, Map<Long, List<Problem>> refused, Set<Integer> open) {
        List<Problem> problems = new ArrayList<>(refused.getOrDefault(
                row.position(),
                List.of(Problem.of(
                        ProblemCode.GROUP_REJECTED,
                        "A row that belongs together with this one is rejected.",
                        "Correct that row; both are sent again together."))));
        String written = plan.writes().stream()
                .filter(write -> !open.contains(targets.connection(plan.writes().indexOf(write))))
                .map(write -> write.connection() + " " + write.target().name())
                .distinct()
                .collect(Collectors.joining(", "));
        problems.add(Problem.of(
                ProblemCode.HALF_WRITTEN,
                "The run was interrupted after it had written " + written + " and before it had written "
                        + plan.writes().get(row.write()).connection() + ".",
                "Send the row again: what is written already is left alone."));
        return problems;
    }

    /** The raw rows are read once more, where there is anything to say of them. */
    private List<Reject> rejects(List<LedgerRow> rows, Map<Long, List<Problem>> said) {
        if (said.isEmpty()) {
            return List.of();
        }
        Map<Long, LedgerRow> lines = new HashMap<>();
        rows.forEach(row -> lines.putIfAbsent(row.position(), row));
        Map<Long, Reject> rejects = new HashMap<>();
        said.forEach((position, problems) -> {
            LedgerRow row = Objects.requireNonNull(lines.get(position));
            Origin origin = Origin.line(row.source(), row.line());
            rejects.put(position, new Reject(row.number(), position, 1, origin, shown(row), List.of(), problems));
        });
        try (RowFlow flow = source.open(plan)) {
            for (FlowRow row = flow.next(); row != null; row = flow.next()) {
                Reject reject = rejects.get(row.position());
                if (reject != null) {
                    rejects.put(row.position(), withRow(reject, row));
                }
            }
        } catch (CannotGoOn | UncheckedIOException e) {
            // without the raw rows the rejects still say all that happened
        }
        return rejects.keySet().stream().sorted().map(rejects::get).toList();
    }

    private static Reject withRow(Reject reject, FlowRow row) {
        return new Reject(
                reject.number(),
                reject.position(),
                Math.max(1, row.stands()[0]),
                row.source().origin(),
                reject.key(),
                BatchLedger.texts(row.source().cells()),
                reject.problems());
    }

    private static String shown(LedgerRow row) {
        return row.key() == null
                ? ""
                : LoadPlanner.shown(row.key().stream().filter(Objects::nonNull).toArray());
    }
}

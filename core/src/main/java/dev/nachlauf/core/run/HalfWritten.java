package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.Token;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * Brings a batch to its end that one connection has committed and another has not, because a crash came between the two.
 * What the ledger says of the rest is done as it stands there; nothing is computed a second time. Where somebody has
 * changed a record since, or the target refuses it now, the row is rejected together with its group, and the reject says
 * what has been written of it.
 */
final class HalfWritten {
    private final Attempt attempt;
    private final Plan plan;
    private final Targets targets;
    private final LateRejects rejects;
    private final BatchLedger ledger;

    HalfWritten(Attempt attempt, Targets targets, LateRejects rejects) {
        this.attempt = attempt;
        this.plan = attempt.plan();
        this.targets = targets;
        this.rejects = rejects;
        this.ledger = new BatchLedger(plan, targets.cells());
    }

    /** @param open the connections in which nothing of the batch was committed */
    void finish(Chunk chunk, Set<Integer> open) {
        List<LedgerRow> rows = ledger.rows(chunk);
        Map<Long, List<Problem>> refused = new HashMap<>();
        Set<Long> groups = new HashSet<>();
        while (true) {
            int before = groups.size();
            try (Work work = targets.begin(attempt.unit(chunk.head().batch()))) {
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
        Target target = targets.of(index);
        ChangeSet changes =
                new LedgerChanges(target.cells(), hasIdOfItsOwn(plan.writes().get(index))).of(rows);
        int[] all = IntStream.range(0, rows.size()).toArray();
        StoredNow now = StoredNow.of(target, changes, all);
        int[] changing = IntStream.of(all)
                .filter(row -> now.as(row) == StoredNow.As.BEFORE)
                .toArray();
        Answers answers = new Answers(changes);
        if (changing.length > 0) {
            work.apply(index, changes, changing, answers);
        }
        boolean any = false;
        for (int row = 0; row < rows.size(); row++) {
            switch (answers.kind(row)) {
                case DONE -> any = true;
                case REFUSED -> refuse(rows.get(row), answers.problems(row), refused, groups);
                case NONE, MOVED -> refuse(rows.get(row), List.of(LateRejects.CHANGED), refused, groups);
                case UNKNOWN -> refuse(rows.get(row), List.of(BatchInHand.UNKNOWN), refused, groups);
            }
        }
        return any;
    }

    private static void refuse(
            LedgerRow row, List<Problem> problems, Map<Long, List<Problem>> refused, Set<Long> groups) {
        refused.putIfAbsent(row.position(), problems);
        groups.add(row.group());
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
        Chunk corrected = ledger.corrected(chunk, now, rejects.of(rows, said), tokens);
        attempt.records().replace(corrected);
        work.commit(changed, () -> {});
        if (!tokens.isEmpty()) {
            attempt.records().settled(List.of(chunk.head().batch()));
        }
    }

    private List<Problem> said(LedgerRow row, Map<Long, List<Problem>> refused, Set<Integer> open) {
        List<Problem> problems = new ArrayList<>(refused.getOrDefault(row.position(), List.of(LateRejects.GROUP)));
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
}

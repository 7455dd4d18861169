package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Decision;
import dev.nachlauf.core.load.LoadPlanner;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ReservesIds;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.FieldSet;
import dev.nachlauf.core.system.Target.Keys;
import dev.nachlauf.core.system.Target.UnitId;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Writes one batch: find, decide, apply, ledger, commit. One per target, used by one thread. */
final class BatchWriter {
    private static final Problem CHANGED_MEANWHILE = Problem.of(
            ProblemCode.CHANGED_MEANWHILE,
            "Somebody else kept changing the record while this row was written.",
            "Send the row again when they are done.");
    private static final Problem UNKNOWN = Problem.of(
            ProblemCode.OUTCOME_UNKNOWN,
            "The target did not say whether the row was written.",
            "Look the record up before you send the row again.");
    private static final @Nullable Object[] NO_VALUES = {};

    private final Plan plan;
    private final Target target;
    private final RunRecords records;
    private final RunObserver observer;
    private final RejectGuard guard;
    private final String run;
    private final long epoch;
    private final FieldSet wanted;
    private final @Nullable Object[] nothing;
    private final BitSet everything = new BitSet();
    /** Committed in the target; marked as done with the next chunk. */
    private final List<Integer> committed = new ArrayList<>();

    /** The changes that belong to the lines that {@link #decide} returned last, in the same order. */
    private final List<Change> changes = new ArrayList<>();

    BatchWriter(
            Plan plan,
            Target target,
            RunRecords records,
            RunObserver observer,
            RejectGuard guard,
            String run,
            long epoch) {
        this.plan = plan;
        this.target = target;
        this.records = records;
        this.observer = observer;
        this.guard = guard;
        this.run = run;
        this.epoch = epoch;
        this.wanted = new FieldSet(plan.fieldNames());
        this.nothing = new @Nullable Object[plan.fields().size()];
        this.everything.set(0, plan.fields().size());
    }

    /** What is known of a row while its batch is under way. */
    private static final class Line {
        private final TargetRow row;
        private Outcome outcome;
        private List<Problem> problems;
        private @Nullable Object id;
        private BitSet changed = new BitSet();
        private @Nullable Object[] before = NO_VALUES;
        private @Nullable Object[] after = NO_VALUES;

        Line(TargetRow row) {
            this.row = row;
            this.problems = row.problems();
            this.outcome = row.skipped() == null ? Outcome.REJECTED : Outcome.SKIPPED;
        }

        void reject(List<Problem> reasons) {
            outcome = Outcome.REJECTED;
            problems = reasons;
            changed = new BitSet();
        }
    }

    /** Writes a batch; false where a limit is crossed by it, and then nothing was written. */
    boolean write(Batch batch) {
        List<Line> lines = batch.rows().stream().map(Line::new).toList();
        List<Line> passed = lines.stream().filter(line -> line.row.passed()).toList();
        Target.@Nullable Unit unit = null;
        try {
            List<Line> changing = passed.isEmpty() ? List.of() : decide(passed);
            if (!changing.isEmpty()) {
                unit = target.begin(new UnitId(run, epoch, batch.number()));
                apply(unit, changing);
            }
            boolean wrote = passed.stream()
                    .anyMatch(line -> line.outcome == Outcome.INSERTED || line.outcome == Outcome.UPDATED);
            Chunk chunk = chunk(batch, lines, wrote && unit != null ? Optional.of(unit.token()) : Optional.empty());
            if (!guard.admit(chunk.head().counts())) {
                return false;
            }
            observer.reached(RunObserver.Point.BEFORE_LEDGER, batch.number());
            records.save(chunk, List.copyOf(committed));
            committed.clear();
            observer.reached(RunObserver.Point.BETWEEN_LEDGER_AND_COMMIT, batch.number());
            if (wrote && unit != null) {
                unit.commit();
                committed.add(batch.number());
                observer.reached(RunObserver.Point.AFTER_COMMIT, batch.number());
            }
            observer.written(guard.counts());
            return true;
        } finally {
            if (unit != null) {
                unit.close();
            }
        }
    }

    /** Marks what is committed as done, when no further chunk will do it. */
    void finish() {
        if (!committed.isEmpty()) {
            records.settled(List.copyOf(committed));
            committed.clear();
        }
    }

    /** Decides the rows; those that have to be written are returned with their change prepared. */
    private List<Line> decide(List<Line> lines) {
        List<Object[]> keys = new ArrayList<>(lines.size());
        lines.forEach(line -> keys.add(Objects.requireNonNull(line.row.key())));
        List<Decision> decisions = LoadPlanner.plan(
                lines.stream().map(line -> line.row).toList(), target.find(new Keys(plan.keyNames(), keys), wanted));
        List<Line> changing = new ArrayList<>();
        changes.clear();
        for (int i = 0; i < lines.size(); i++) {
            Line line = lines.get(i);
            switch (decisions.get(i)) {
                case Decision.Leave leave -> {
                    line.outcome = Outcome.UNCHANGED;
                    line.id = leave.id();
                }
                case Decision.Reject reject -> line.reject(List.of(reject.problem()));
                case Decision.Write write -> {
                    changes.add(write.change());
                    changing.add(line);
                }
            }
        }
        reserveIds();
        return changing;
    }

    private void reserveIds() {
        long inserts = changes.stream().filter(Change.Insert.class::isInstance).count();
        if (inserts == 0 || !(target instanceof ReservesIds reserves)) {
            return;
        }
        List<Object> ids = reserves.reserve((int) inserts);
        int next = 0;
        for (int i = 0; i < changes.size() && next < ids.size(); i++) {
            if (changes.get(i) instanceof Change.Insert insert) {
                Object id = ids.get(next++);
                changes.set(i, new Change.Insert(insert.row(), insert.group(), insert.key(), id, insert.after()));
            }
        }
    }

    /** Applies; records that somebody changed meanwhile are looked at once more. */
    private void apply(Target.Unit unit, List<Line> changing) {
        List<Line> moved = applyOnce(unit, changing);
        if (!moved.isEmpty()) {
            List<Line> again = decide(moved);
            if (!again.isEmpty()) {
                applyOnce(unit, again).forEach(line -> line.reject(List.of(CHANGED_MEANWHILE)));
            }
        }
    }

    private List<Line> applyOnce(Target.Unit unit, List<Line> changing) {
        List<Answer> answers = unit.apply(List.copyOf(changes));
        List<Line> moved = new ArrayList<>();
        for (int i = 0; i < changing.size(); i++) {
            Line line = changing.get(i);
            switch (answers.get(i)) {
                case Answer.Done done -> done(line, changes.get(i), done);
                case Answer.Refused refused -> line.reject(refused.problems());
                case Answer.Moved ignored -> moved.add(line);
                case Answer.Unknown ignored -> line.reject(List.of(UNKNOWN));
            }
        }
        return moved;
    }

    private void done(Line line, Change change, Answer.Done done) {
        line.id = done.id();
        switch (change) {
            case Change.Insert insert -> {
                line.outcome = Outcome.INSERTED;
                line.after = insert.after();
                // shared by all new records: nothing was there before, and everything is new
                line.before = nothing;
                line.changed = everything;
            }
            case Change.Update update -> {
                line.outcome = Outcome.UPDATED;
                line.before = update.before();
                line.after = update.after();
                line.changed = update.changed();
            }
            case Change.Delete delete -> {
                line.outcome = Outcome.DELETED;
                line.before = delete.before();
            }
        }
        @Nullable Object @Nullable [] stored = done.stored();
        if (stored != null) {
            line.problems = changedByTarget(line, stored);
            line.after = stored;
        }
    }

    private List<Problem> changedByTarget(Line line, @Nullable Object[] stored) {
        List<Problem> warnings = new ArrayList<>();
        for (int field = line.changed.nextSetBit(0); field >= 0; field = line.changed.nextSetBit(field + 1)) {
            if (!Values.same(line.after[field], stored[field])) {
                warnings.add(Problem.inField(
                        ProblemCode.CHANGED_BY_TARGET,
                        plan.fieldNames().get(field),
                        "The target stored another value than was sent.",
                        ""));
            }
        }
        return warnings;
    }

    private Chunk chunk(Batch batch, List<Line> lines, Optional<Target.Token> token) {
        Counts counts = Counts.NONE;
        Map<String, Long> fieldCounts = new TreeMap<>();
        List<LedgerRow> rows = new ArrayList<>(lines.size());
        List<Reject> rejects = new ArrayList<>();
        List<String> names = plan.fieldNames();
        for (Line line : lines) {
            boolean rejected = line.outcome == Outcome.REJECTED;
            counts = counts.plus(Counts.one(line.outcome, line.row.passed(), !rejected && !line.problems.isEmpty()));
            rows.add(ledgerRow(line));
            if (rejected) {
                Object[] key = line.row.key();
                rejects.add(new Reject(
                        line.row.source().number(),
                        line.row.source().origin(),
                        key == null ? "" : LoadPlanner.shown(key),
                        texts(line.row.source().cells()),
                        line.problems));
            }
            if (line.outcome == Outcome.UPDATED) {
                line.changed.stream().forEach(field -> fieldCounts.merge(names.get(field), 1L, Long::sum));
            }
        }
        Chunk.State state = token.isPresent() ? Chunk.State.PENDING : Chunk.State.DONE;
        Chunk.Head head =
                new Chunk.Head(batch.number(), batch.firstRow(), batch.lastRow(), counts, fieldCounts, token, state);
        return Chunk.of(head, rows, rejects, plan.key().size(), plan.fields().size());
    }

    private static List<@Nullable String> texts(@Nullable Object[] cells) {
        List<@Nullable String> texts = new ArrayList<>(cells.length);
        for (Object cell : cells) {
            texts.add(Values.text(cell));
        }
        return texts;
    }

    private static String source(Origin origin) {
        return origin.sheet().isEmpty() ? origin.file() : origin.file() + ", " + origin.sheet();
    }

    private static LedgerRow ledgerRow(Line line) {
        String note = line.row.skipped() != null
                ? line.row.skipped()
                : line.problems.stream()
                        .map(problem -> problem.code().id())
                        .distinct()
                        .collect(Collectors.joining(" "));
        Object[] key = line.row.key();
        return new LedgerRow(
                line.row.source().number(),
                source(line.row.source().origin()),
                line.row.source().origin().line(),
                line.outcome,
                line.row.passed(),
                note,
                key == null ? null : List.of(key),
                line.id,
                line.changed,
                line.before,
                line.after);
    }
}

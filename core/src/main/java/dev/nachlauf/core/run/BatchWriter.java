package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.Line.Part;
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.UnitId;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Writes one batch, all writes in order: find, decide, apply, ledger, commit. A row is written in all of its writes or in
 * none, and so is a group: where a write refuses a row whose group has been written elsewhere in the batch, the batch is
 * begun anew without that group. Connections are committed one after the other, in the order of the writes; what a crash
 * leaves between two of them is brought to its end by {@link HalfWritten}. Used by one thread.
 */
final class BatchWriter {
    private static final Problem CHANGED_MEANWHILE = Problem.of(
            ProblemCode.CHANGED_MEANWHILE,
            "Somebody else kept changing the record while this row was written.",
            "Send the row again when they are done.");
    static final Problem UNKNOWN = Problem.of(
            ProblemCode.OUTCOME_UNKNOWN,
            "The target did not say whether the row was written.",
            "Look the record up before you send the row again.");
    /** So often a batch is begun anew because somebody else keeps changing its records. */
    private static final int PATIENCE = 3;

    private final Plan plan;
    private final Targets targets;
    private final BatchDecisions decisions;
    private final RunRecords records;
    private final RunObserver observer;
    private final RejectGuard guard;
    private final BatchLedger ledger;
    private final String run;
    private final long epoch;
    private final boolean simple;
    private final BitSet[] everything;
    private final @Nullable Object[][] nothing;
    /** Committed in the target; marked as done with the next chunk. */
    private final List<Integer> committed = new ArrayList<>();

    BatchWriter(
            Plan plan,
            Targets targets,
            References references,
            RunRecords records,
            RunObserver observer,
            RejectGuard guard,
            String run,
            long epoch) {
        this.plan = plan;
        this.targets = targets;
        this.decisions = new BatchDecisions(plan, targets, references);
        this.records = records;
        this.observer = observer;
        this.guard = guard;
        this.ledger = new BatchLedger(plan);
        this.run = run;
        this.epoch = epoch;
        this.simple = plan.isSimple();
        int writes = plan.writes().size();
        everything = new BitSet[writes];
        nothing = new Object[writes][];
        for (int w = 0; w < writes; w++) {
            int fields = plan.writes().get(w).fields().size();
            everything[w] = new BitSet();
            everything[w].set(0, fields);
            nothing[w] = new Object[fields];
        }
    }

    /** Writes a batch; false where a limit is crossed by it, and then nothing was written. */
    boolean write(Batch batch) {
        List<Line> lines = batch.rows().stream()
                .map(row -> new Line(row, plan.writes().size()))
                .toList();
        try (Work work = decideAndApply(batch, lines)) {
            SortedMap<Integer, Token> tokens = work.tokens(changedConnections(lines));
            Chunk chunk = ledger.chunk(batch, lines, tokens);
            if (!guard.admit(chunk.head())) {
                // whoever decides about the run sees what would have been rejected
                records.foresee(ChunkCodec.rejects(chunk.rejects()));
                return false;
            }
            observer.reached(RunObserver.Point.BEFORE_LEDGER, batch.number());
            records.save(chunk, List.copyOf(committed));
            committed.clear();
            observer.reached(RunObserver.Point.BETWEEN_LEDGER_AND_COMMIT, batch.number());
            if (!tokens.isEmpty()) {
                work.commit(tokens.keySet(), () -> observer.reached(RunObserver.Point.BETWEEN_COMMITS, batch.number()));
                committed.add(batch.number());
                observer.reached(RunObserver.Point.AFTER_COMMIT, batch.number());
                decisions.written();
            }
            observer.written(guard.counts());
            return true;
        }
    }

    /** The connections in which some row changed a record. */
    private Set<Integer> changedConnections(List<Line> lines) {
        Set<Integer> changed = new TreeSet<>();
        for (int w = 0; w < plan.writes().size(); w++) {
            int write = w;
            if (lines.stream().anyMatch(line -> line.wrote(write))) {
                changed.add(targets.connection(w));
            }
        }
        return changed;
    }

    /** Marks what is committed as done, when no further chunk will do it; also when the run breaks off. */
    void finish() {
        if (!committed.isEmpty()) {
            records.settled(List.copyOf(committed));
            committed.clear();
        }
    }

    /** The work with everything applied that can be. */
    private Work decideAndApply(Batch batch, List<Line> lines) {
        int moves = 0;
        while (true) {
            List<Line> going = lines.stream().filter(Line::goesOn).toList();
            for (int w = 0; w < plan.writes().size(); w++) {
                decisions.decide(w, going, lines);
            }
            refuseGroups(going);
            Work work = targets.begin(new UnitId(run, epoch, batch.number()));
            boolean sound = false;
            try {
                Verdict verdict = apply(work, going, moves == PATIENCE - 1);
                sound = verdict == Verdict.DONE;
                moves += verdict == Verdict.MOVED ? 1 : 0;
            } finally {
                if (!sound) {
                    work.close();
                }
            }
            if (sound) {
                return work;
            }
        }
    }

    /** A row that is rejected takes its group with it. */
    private void refuseGroups(List<Line> going) {
        if (simple) {
            return;
        }
        Map<Long, Line> refused = new HashMap<>();
        for (Line line : going) {
            if (!line.goesOn()) {
                refused.putIfAbsent(line.row.row().group(), line);
            }
        }
        for (Line line : going) {
            Line because = refused.get(line.row.row().group());
            if (because != null && line.goesOn()) {
                line.refuse(List.of(groupRejected(because)));
            }
        }
    }

    private static Problem groupRejected(Line because) {
        return Problem.of(
                ProblemCode.GROUP_REJECTED,
                "Row " + because.row.row().source().number() + " belongs together with this one and is rejected.",
                "Correct that row; both are sent again together.");
    }

    private enum Verdict {
        DONE,
        /** Rows were refused whose groups had been written elsewhere: begin anew without them. */
        REFUSED,
        /** Somebody else changed records meanwhile: look again. */
        MOVED
    }

    private Verdict apply(Work work, List<Line> going, boolean lastTime) {
        for (int w = 0; w < plan.writes().size(); w++) {
            List<Line> moved = applyOnce(work, w, changing(w, going));
            if (!moved.isEmpty() && simple) {
                decisions.decide(w, moved, moved);
                applyOnce(work, w, changing(w, moved)).forEach(line -> line.refuse(List.of(CHANGED_MEANWHILE)));
            } else if (!moved.isEmpty() && !lastTime) {
                return Verdict.MOVED;
            } else {
                moved.forEach(line -> line.refuse(List.of(CHANGED_MEANWHILE)));
            }
            boolean refused = going.stream().anyMatch(line -> !line.refused.isEmpty());
            if (!simple && refused) {
                refuseGroups(going);
                return Verdict.REFUSED;
            }
        }
        return Verdict.DONE;
    }

    private static List<Line> changing(int index, List<Line> lines) {
        return lines.stream()
                .filter(line -> line.goesOn() && line.parts[index] != null && line.parts[index].change != null)
                .toList();
    }

    /** Applies one write's changes; the result is the rows whose records somebody changed meanwhile. */
    private List<Line> applyOnce(Work work, int index, List<Line> changing) {
        if (changing.isEmpty()) {
            return List.of();
        }
        List<Change> changes = new ArrayList<>();
        changing.forEach(line -> changes.add(Objects.requireNonNull(Objects.requireNonNull(line.parts[index]).change)));
        List<Answer> answers = work.apply(index, changes);
        List<Line> moved = new ArrayList<>();
        for (int i = 0; i < changing.size(); i++) {
            Line line = changing.get(i);
            switch (answers.get(i)) {
                case Answer.Done done -> done(index, Objects.requireNonNull(line.parts[index]), changes.get(i), done);
                case Answer.Refused refused -> line.refuse(refused.problems());
                case Answer.Moved ignored -> moved.add(line);
                case Answer.Unknown ignored -> line.refuse(List.of(UNKNOWN));
            }
        }
        return moved;
    }

    private void done(int index, Part part, Change change, Answer.Done done) {
        part.id = done.id();
        switch (change) {
            case Change.Insert insert -> {
                part.outcome = Outcome.INSERTED;
                part.after = insert.after();
                // shared by all new records: nothing was there before, and everything is new
                part.before = nothing[index];
                part.changed = everything[index];
            }
            case Change.Update update -> {
                part.outcome = Outcome.UPDATED;
                part.before = update.before();
                part.after = update.after();
                part.changed = update.changed();
            }
            case Change.Delete delete -> {
                part.outcome = Outcome.DELETED;
                part.before = delete.before();
            }
        }
        @Nullable Object @Nullable [] stored = done.stored();
        if (stored != null) {
            part.warnings = changedByTarget(index, part, stored);
            part.after = stored;
        }
    }

    private List<Problem> changedByTarget(int index, Part part, @Nullable Object[] stored) {
        List<Problem> warnings = new ArrayList<>();
        for (int field = part.changed.nextSetBit(0); field >= 0; field = part.changed.nextSetBit(field + 1)) {
            if (!Values.same(part.after[field], stored[field])) {
                warnings.add(Problem.inField(
                        ProblemCode.CHANGED_BY_TARGET,
                        plan.writes().get(index).fieldNames().get(field),
                        "The target stored another value than was sent.",
                        ""));
            }
        }
        return warnings;
    }
}

package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Target.Token;
import dev.nachlauf.core.system.Target.UnitId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeSet;
import java.util.stream.IntStream;

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
        this.ledger = new BatchLedger(plan, targets.cells());
        this.run = run;
        this.epoch = epoch;
        this.simple = plan.isSimple();
    }

    /** Writes a batch; false where a limit is crossed by it, and then nothing was written. */
    boolean write(Batch batch) {
        BatchInHand hand = new BatchInHand(batch, plan.writes().size());
        try (Work work = decideAndApply(hand)) {
            SortedMap<Integer, Token> tokens = work.tokens(changedConnections(hand));
            Chunk chunk = ledger.chunk(hand, tokens);
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
    private Set<Integer> changedConnections(BatchInHand hand) {
        Set<Integer> changed = new TreeSet<>();
        for (int w = 0; w < plan.writes().size(); w++) {
            if (hand.wrote(w)) {
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
    private Work decideAndApply(BatchInHand hand) {
        int moves = 0;
        while (true) {
            for (int w = 0; w < plan.writes().size(); w++) {
                decisions.decide(w, hand);
            }
            refuseGroups(hand);
            Work work = targets.begin(new UnitId(run, epoch, hand.batch().number()));
            boolean sound = false;
            try {
                Verdict verdict = apply(work, hand, moves == PATIENCE - 1);
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
    private void refuseGroups(BatchInHand hand) {
        if (simple) {
            return;
        }
        Batch batch = hand.batch();
        Map<Long, Integer> refused = new HashMap<>();
        hand.refused().forEach(row -> refused.putIfAbsent(batch.group(row), row));
        for (int row = 0; row < batch.size() && !refused.isEmpty(); row++) {
            Integer because = refused.get(batch.group(row));
            if (because != null && hand.goesOn(row)) {
                hand.refuse(row, List.of(groupRejected(batch.sourceRow(because))));
            }
        }
    }

    private static Problem groupRejected(long because) {
        return Problem.of(
                ProblemCode.GROUP_REJECTED,
                "Row " + because + " belongs together with this one and is rejected.",
                "Correct that row; both are sent again together.");
    }

    private enum Verdict {
        DONE,
        /** Rows were refused whose groups had been written elsewhere: begin anew without them. */
        REFUSED,
        /** Somebody else changed records meanwhile: look again. */
        MOVED
    }

    private Verdict apply(Work work, BatchInHand hand, boolean lastTime) {
        int refusedBefore = hand.countRefused();
        for (int w = 0; w < plan.writes().size(); w++) {
            int[] moved =
                    applyOnce(work, w, hand, changing(w, hand, hand.part(w).all()));
            if (moved.length > 0 && simple) {
                decisions.decide(w, hand, moved);
                refuseMoved(hand, w, applyOnce(work, w, hand, changing(w, hand, moved)));
            } else if (moved.length > 0 && !lastTime) {
                return Verdict.MOVED;
            } else {
                refuseMoved(hand, w, moved);
            }
            if (!simple && hand.countRefused() > refusedBefore) {
                refuseGroups(hand);
                return Verdict.REFUSED;
            }
        }
        return Verdict.DONE;
    }

    private static void refuseMoved(BatchInHand hand, int write, int[] moved) {
        for (int place : moved) {
            hand.refuse(hand.part(write).row(place), List.of(CHANGED_MEANWHILE));
        }
    }

    /** Those of these places that change a record and go on. */
    private static int[] changing(int index, BatchInHand hand, int[] some) {
        Part part = hand.part(index);
        return IntStream.of(part.changes().changes(some))
                .filter(place -> hand.goesOn(part.row(place)))
                .toArray();
    }

    /** Applies one write's changes; the result is the places whose records somebody changed meanwhile. */
    private static int[] applyOnce(Work work, int index, BatchInHand hand, int[] changing) {
        if (changing.length == 0) {
            return changing;
        }
        Part part = hand.part(index);
        Answers answers = part.answers();
        work.apply(index, part.changes(), changing, answers);
        int[] moved = new int[changing.length];
        int count = 0;
        for (int place : changing) {
            switch (answers.kind(place)) {
                case DONE -> part.compareStored(place);
                case REFUSED -> hand.refuse(part.row(place), answers.problems(place));
                case MOVED -> moved[count++] = place;
                case UNKNOWN -> hand.refuse(part.row(place), List.of(UNKNOWN));
                case NONE -> throw new IllegalStateException("a target left a change without an answer");
            }
        }
        return Arrays.copyOf(moved, count);
    }
}

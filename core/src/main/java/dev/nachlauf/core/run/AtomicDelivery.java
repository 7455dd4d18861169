package dev.nachlauf.core.run;

import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Target.Token;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.SortedMap;

/**
 * Delivers a batch whole or not at all: apply, ledger, commit. A row is written in all of its writes or in none, and so is
 * a group: where a write refuses a row whose group has been written elsewhere in the batch, the batch is begun anew
 * without that group. Connections are committed one after the other, in the order of the writes; what a crash leaves
 * between two of them is brought to its end by {@link HalfWritten}.
 */
final class AtomicDelivery implements Delivery {
    /** So often a batch is begun anew because somebody else keeps changing its records. */
    private static final int PATIENCE = 3;

    private final Attempt attempt;
    private final LedgerWrites writes;
    private final Targets targets;
    private final BatchPlanner planner;
    private final LimitGuard guard;
    private final BatchLedger ledger;
    private final boolean simple;
    /** Committed in the target; marked as done with the next chunk. */
    private final List<Integer> committed = new ArrayList<>();

    AtomicDelivery(Attempt attempt, Targets targets, BatchPlanner planner, LimitGuard guard) {
        this.attempt = attempt;
        this.writes = attempt.writes();
        this.targets = targets;
        this.planner = planner;
        this.guard = guard;
        this.ledger = new BatchLedger(writes, targets.cells());
        this.simple = writes.simple();
    }

    @Override
    public boolean deliver(BatchInHand hand) {
        int batch = hand.batch().number();
        RunObserver observer = attempt.observer();
        try (Work work = applied(hand)) {
            SortedMap<Integer, Token> tokens = work.tokens(changedConnections(hand));
            Chunk chunk = ledger.chunk(hand, tokens);
            if (!guard.admit(chunk.head())) {
                // whoever decides about the run sees what would have been rejected
                attempt.records().foresee(ChunkCodec.rejects(chunk.rejects()));
                return false;
            }
            observer.reached(RunObserver.Point.BEFORE_LEDGER, batch);
            attempt.records().save(chunk, List.copyOf(committed));
            committed.clear();
            observer.reached(RunObserver.Point.BETWEEN_LEDGER_AND_COMMIT, batch);
            if (!tokens.isEmpty()) {
                work.commit(tokens.keySet(), () -> observer.reached(RunObserver.Point.BETWEEN_COMMITS, batch));
                committed.add(batch);
                observer.reached(RunObserver.Point.AFTER_COMMIT, batch);
                planner.written();
            }
            observer.written(guard.counts());
            return true;
        }
    }

    /** The connections in which some row changed a record. */
    private Set<Integer> changedConnections(BatchInHand hand) {
        return targets.connections(hand::wrote);
    }

    @Override
    public void finish() {
        if (!committed.isEmpty()) {
            attempt.records().settled(List.copyOf(committed));
            committed.clear();
        }
    }

    /** The work with everything applied that can be. */
    private Work applied(BatchInHand hand) {
        int moves = 0;
        while (true) {
            Work work = targets.begin(attempt.unit(hand.batch().number()));
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
            planner.planAnew(hand);
        }
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
        for (int w = 0; w < writes.count(); w++) {
            int[] moved = applyOnce(work, w, hand, hand.changing(w));
            if (moved.length > 0 && simple) {
                planner.decide(w, hand, moved);
                hand.refuseMoved(w, applyOnce(work, w, hand, hand.changing(w, moved)));
            } else if (moved.length > 0 && !lastTime) {
                return Verdict.MOVED;
            } else {
                hand.refuseMoved(w, moved);
            }
            if (!simple && hand.countRefused() > refusedBefore) {
                return Verdict.REFUSED;
            }
        }
        return Verdict.DONE;
    }

    /** Applies one write's changes; the result is the places whose records somebody changed meanwhile. */
    private static int[] applyOnce(Work work, int index, BatchInHand hand, int[] changing) {
        if (changing.length == 0) {
            return changing;
        }
        Part part = hand.part(index);
        Answers answers = part.answers();
        work.apply(index, part.changes(), changing, answers);
        return hand.heard(index, changing);
    }
}

package dev.nachlauf.core.run;

import dev.nachlauf.core.system.Target.Token;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.SortedMap;

/**
 * Delivers a batch whole or not at all: apply, ledger, commit. Connections are committed one after the other, in the order
 * of the writes; what a crash leaves between two of them is brought to its end by {@link HalfWritten}.
 */
final class AtomicDelivery implements Delivery {
    private final Attempt attempt;
    private final Targets targets;
    private final BatchPlanner planner;
    private final LimitGuard guard;
    private final BatchLedger ledger;
    private final BatchApplying applying;
    /** Committed in the target; marked as done with the next chunk. */
    private final List<Integer> committed = new ArrayList<>();

    AtomicDelivery(Attempt attempt, Targets targets, BatchPlanner planner, LimitGuard guard) {
        this.attempt = attempt;
        this.targets = targets;
        this.planner = planner;
        this.guard = guard;
        this.ledger = new BatchLedger(attempt.writes(), targets.cells());
        this.applying = new BatchApplying(attempt, targets, planner);
    }

    @Override
    public boolean deliver(BatchInHand hand) {
        int batch = hand.batch().number();
        RunObserver observer = attempt.observer();
        try (Work work = applying.applied(hand)) {
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
}

package dev.nachlauf.core.run;

import java.util.Collections;
import java.util.List;

/** Delivers nothing: keeps what is planned of a batch in the ledger, where it can be looked at. */
final class PlanKeeping implements Delivery {
    private final Attempt attempt;
    private final BatchPlanner planner;
    private final PlannedRecords planned;
    private final LimitGuard guard;
    private final BatchLedger ledger;
    private final LinesLedger lines;
    private final Removals removals;

    /**
     * Keeps what a planner plans.
     *
     * @param planned takes what is planned, for those who ask for it again
     * @param removals hears which records rows meet
     */
    PlanKeeping(
            Attempt attempt,
            Targets targets,
            BatchPlanner planner,
            PlannedRecords planned,
            LimitGuard guard,
            Removals removals) {
        this.removals = removals;
        this.attempt = attempt;
        this.planner = planner;
        this.planned = planned;
        this.guard = guard;
        this.ledger = new BatchLedger(attempt.writes(), targets.cells());
        this.lines = new LinesLedger(attempt.writes(), targets.cells());
    }

    /** Goes on where an earlier attempt was interrupted: what it has planned, and the numbers that it gave, are known. */
    PlanKeeping resumed() {
        for (Chunk.Head head : attempt.records().chunks()) {
            planned.take(lines.rows(attempt.records().chunk(head.batch())));
        }
        return this;
    }

    @Override
    public boolean deliver(BatchInHand hand) {
        removals.meet(hand);
        Chunk chunk = ledger.intent(hand, Collections.emptySortedMap()).planned();
        if (!guard.admit(chunk.head())) {
            attempt.records().foresee(ChunkCodec.rejects(chunk.rejects()));
            return false;
        }
        attempt.observer().reached(RunObserver.Point.BEFORE_LEDGER, hand.batch().number());
        attempt.records().save(chunk, List.of());
        if (planned.isAsked()) {
            planned.take(lines.rows(chunk));
        }
        planner.written();
        attempt.observer().written(guard.counts());
        return true;
    }

    @Override
    public void finish() {
        // nothing is ever in doubt
    }
}

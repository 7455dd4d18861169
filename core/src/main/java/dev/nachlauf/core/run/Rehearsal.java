package dev.nachlauf.core.run;

import java.util.Collections;
import java.util.List;

/**
 * Delivers batches to targets that keep nothing of them: what they refuse beyond the checks of the job is known before
 * anything is written. The ledger holds what would become of the rows.
 */
final class Rehearsal implements Delivery {
    private final Attempt attempt;
    private final BatchPlanner planner;
    private final PlannedRecords planned;
    private final LimitGuard guard;
    private final BatchApplying applying;
    private final BatchLedger ledger;
    private final LinesLedger lines;
    private final Removals removals;

    /**
     * Rehearses what a planner plans.
     *
     * @param targets at which a rehearsal is under way
     * @param planned takes what is sent, for references: they are looked up beside the rehearsal, where nobody sees it
     * @param removals hears which records rows meet
     */
    Rehearsal(
            Attempt attempt,
            Targets targets,
            BatchPlanner planner,
            PlannedRecords planned,
            LimitGuard guard,
            Removals removals) {
        this.attempt = attempt;
        this.planner = planner;
        this.planned = planned;
        this.guard = guard;
        this.removals = removals;
        this.applying = new BatchApplying(attempt, targets, planner);
        this.ledger = new BatchLedger(attempt.writes(), targets.cells());
        this.lines = new LinesLedger(attempt.writes(), targets.cells());
    }

    @Override
    public boolean deliver(BatchInHand hand) {
        removals.meet(hand);
        RunObserver observer = attempt.observer();
        try (Work work = applying.applied(hand)) {
            Chunk chunk = ledger.chunk(hand, Collections.emptySortedMap()).planned();
            guard.admit(chunk.head());
            observer.reached(RunObserver.Point.BEFORE_LEDGER, hand.batch().number());
            attempt.records().save(chunk, List.of());
            work.commit();
            removals.meetNew(hand);
            if (planned.isAsked()) {
                planned.take(lines.rows(chunk));
            }
            planner.written();
            observer.written(guard.counts());
            return true;
        }
    }

    @Override
    public void finish() {
        // nothing is ever in doubt
    }
}

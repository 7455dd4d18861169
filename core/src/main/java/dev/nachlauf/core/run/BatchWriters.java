package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.step.RecordFinder;

/** Makes the writers of a run, by what it is for: which records its batches find, and how they are delivered. */
final class BatchWriters {
    private final Attempt attempt;
    private final Plan plan;
    private final RunPolicy policy;
    private final RecordFinder finder;
    private final NearDuplicates near;
    private final LimitGuard guard;

    BatchWriters(
            Attempt attempt, Plan plan, RunPolicy policy, RecordFinder finder, NearDuplicates near, LimitGuard guard) {
        this.attempt = attempt;
        this.plan = plan;
        this.policy = policy;
        this.finder = finder;
        this.near = near;
        this.guard = guard;
    }

    /** A writer to these targets. */
    BatchWriter writer(Targets targets, Removals removals) {
        StoredRecords stored = (write, rows, which, found) -> targets.of(write).find(rows, which, found);
        if (policy.purpose() == Purpose.REHEARSAL) {
            PlannedRecords sent = new PlannedRecords(plan, targets);
            BatchPlanner planner = planner(targets, stored, sent.finder(finder), NewIds.RESERVED);
            return new BatchWriter(planner, new Rehearsal(attempt, targets, planner, sent, guard, removals));
        }
        if (policy.planOnly()) {
            PlannedRecords planned = new PlannedRecords(plan, targets);
            BatchPlanner planner = planner(targets, planned, planned.finder(finder), planned::give);
            return new BatchWriter(
                    planner, new PlanKeeping(attempt, targets, planner, planned, guard, removals).resumed());
        }
        BatchPlanner planner = planner(targets, stored, finder, NewIds.RESERVED);
        return new BatchWriter(
                planner,
                targets.isAtomic()
                        ? new AtomicDelivery(attempt, targets, planner, guard)
                        : new RecordDelivery(attempt, targets, planner, guard));
    }

    private BatchPlanner planner(Targets targets, StoredRecords stored, RecordFinder references, NewIds ids) {
        return new BatchPlanner(plan, targets, stored, new References(references), ids, near);
    }

    /** What stands against removals, as far as it is known before they are written. */
    Objections objections(Targets targets) {
        Objections foreseen = new ForbiddenRemovals(plan, targets);
        return policy.purpose() == Purpose.REHEARSAL ? new RehearsedRemovals(attempt, targets, foreseen) : foreseen;
    }
}

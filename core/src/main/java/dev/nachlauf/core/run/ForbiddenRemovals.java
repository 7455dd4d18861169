package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ForeseesRemovals;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What a plan knows of records that can't go because others refer to them. Where several writes remove records, those that
 * refer may go as well, so only writing can tell.
 */
final class ForbiddenRemovals implements Objections {
    private final Plan plan;
    private final Targets targets;

    ForbiddenRemovals(Plan plan, Targets targets) {
        this.plan = plan;
        this.targets = targets;
    }

    /** The rows of a batch are rejected whose records can't go. */
    void refuse(BatchInHand hand) {
        if (!plan.removesInOnePlace()) {
            return;
        }
        for (int w = 0; w < hand.writes(); w++) {
            int write = w;
            Part part = hand.part(write);
            forbidden(write, part.changes(), hand.changing(write))
                    .forEach((place, problems) -> hand.refuse(write, part.row(place), problems));
        }
        if (!plan.isSimple()) {
            hand.refuseLed();
        }
    }

    @Override
    public Map<Integer, Objection> of(int write, ChangeSet changes, int[] changing) {
        Map<Integer, Objection> objections = new HashMap<>();
        forbidden(write, changes, changing)
                .forEach((place, problems) -> objections.put(place, new Objection(problems, false)));
        return objections;
    }

    private Map<Integer, List<Problem>> forbidden(int write, ChangeSet changes, int[] changing) {
        int[] deletes = changes.rows(ChangeSet.Kind.DELETE, changing);
        return plan.removesInOnePlace() && deletes.length > 0 && targets.of(write) instanceof ForeseesRemovals foresees
                ? foresees.forbidden(changes, deletes)
                : Map.of();
    }
}

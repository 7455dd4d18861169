package dev.nachlauf.core.step;

import dev.nachlauf.core.plan.PlannedStep.Finding;
import java.util.List;

/** Finds records by key, many at once. */
@FunctionalInterface
public interface RecordFinder {
    /** One answer per key, in order. The keys hold no nulls. */
    List<Found> find(Finding finding, List<Object[]> keys);
}

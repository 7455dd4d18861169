package dev.nachlauf.core.step;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceRow;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What the steps made of a row.
 *
 * @param skipped why the row is left out; null where it is not
 * @param values the target's fields in the order of the plan; empty for skipped rows
 * @param key the parts of the key; null where one is missing or broken
 * @param problems why the row is rejected; empty where it is not
 */
public record TargetRow(
        SourceRow source,
        @Nullable String skipped,
        @Nullable Object[] values,
        Object @Nullable [] key,
        List<Problem> problems) {

    /** Whether the row goes to the target. */
    public boolean passed() {
        return skipped == null && problems.isEmpty();
    }

    /** Whether the row is rejected before it reaches the target. */
    public boolean rejected() {
        return skipped == null && !problems.isEmpty();
    }

    /** This row with one more problem. */
    public TargetRow rejected(Problem problem) {
        List<Problem> more = new java.util.ArrayList<>(problems);
        more.add(problem);
        return new TargetRow(source, skipped, values, key, more);
    }
}

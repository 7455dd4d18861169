package dev.nachlauf.core.job;

import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.job.JobDefinition.Assignment;
import java.util.List;
import java.util.Optional;

/**
 * What a write that replaces does with records that the source no longer has.
 *
 * @param scope a formula over fields of the target; only records for which it is true are replaced, empty for all
 * @param within fields of the target; only records that agree in them with a row of the load are replaced, empty for all
 * @param deactivated what these records hold from then on; empty where they are removed
 * @param mayBeEmpty whether a source without rows removes all of them
 */
public record Replacing(
        Optional<FormulaSource> scope, List<Placed<String>> within, List<Assignment> deactivated, boolean mayBeEmpty) {
    public Replacing {
        within = List.copyOf(within);
        deactivated = List.copyOf(deactivated);
    }
}

package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.formula.Evaluator;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.Removal;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.ValueProblem;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Whether what a row makes lies within the scope of a write that replaces. One per thread. */
final class ScopeCheck {
    private final Evaluator scope;
    private final String text;
    private final int[] from;
    private final @Nullable Object[] slots;

    private ScopeCheck(PlannedWrite write, Removal removal, Formula formula) {
        scope = formula.evaluator();
        text = formula.source().text();
        List<String> mapped = write.fieldNames();
        from = removal.fieldNames().stream().mapToInt(mapped::indexOf).toArray();
        slots = new Object[from.length];
    }

    /** That of a write; null where every row lies within. */
    static @Nullable ScopeCheck of(PlannedWrite write) {
        Removal removal = write.removal().orElse(null);
        Formula formula = removal == null ? null : removal.scope().orElse(null);
        return removal == null || formula == null ? null : new ScopeCheck(write, removal, formula);
    }

    /** @param values what the row makes of the write's fields */
    void check(@Nullable Object[] values, List<Problem> problems) {
        for (int slot = 0; slot < from.length; slot++) {
            slots[slot] = from[slot] < 0 ? null : values[from[slot]];
        }
        try {
            if (!Boolean.TRUE.equals(scope.evaluate(slots))) {
                problems.add(Problem.of(
                        ProblemCode.OUT_OF_SCOPE,
                        "The row lies outside the scope of what is replaced: " + text + ".",
                        "Correct the row, or load it with another job."));
            }
        } catch (BrokenInput e) {
            // the value that is missing has been reported
        } catch (ValueProblem problem) {
            problems.add(problem.inField("scope"));
        }
    }
}

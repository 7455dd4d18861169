package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.value.ValueProblem;
import org.jspecify.annotations.Nullable;

/** Which of two writes takes a row, where a job names a second key for rows whose first one has an empty part. */
final class Turns {
    private Turns() {}

    /** Whether a write may take a row, as far as its key is concerned. */
    static boolean has(Plan plan, int index, FlowRow row) {
        return switch (plan.writes().get(index).turn()) {
            case ALONE -> true;
            case FIRST -> !isKeyEmpty(plan.writes().get(index), row.slots());
            case SECOND -> isKeyEmpty(plan.writes().get(index - 1), row.slots());
        };
    }

    /** Whether a part of the key is empty; a part that can't be computed is a problem of the row, and is told by the first. */
    private static boolean isKeyEmpty(PlannedWrite write, @Nullable Object[] slots) {
        boolean empty = false;
        for (int field : write.key()) {
            if (write.fields().get(field).source() instanceof Source.Of of) {
                try {
                    Object part = of.formula().evaluator().evaluate(slots);
                    empty |= part == null || "".equals(part);
                } catch (BrokenInput | ValueProblem e) {
                    return false;
                }
            }
        }
        return empty;
    }
}

package dev.nachlauf.core.formula;

import org.jspecify.annotations.Nullable;

/** A compiled formula: a closure over the slots of a row. */
@FunctionalInterface
public interface Evaluator {
    /**
     * The value for a row; null where it is null.
     *
     * @throws dev.nachlauf.core.value.ValueProblem where there is none
     * @throws BrokenInput where a slot it needs is {@link BrokenInput#VALUE}
     */
    @Nullable
    Object evaluate(@Nullable Object[] row);
}

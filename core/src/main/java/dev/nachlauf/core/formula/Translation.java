package dev.nachlauf.core.formula;

import org.jspecify.annotations.Nullable;

/** A table that translates values, as formulas see it. */
@FunctionalInterface
public interface Translation {
    /**
     * The translation.
     *
     * @param value the canonical text of the value; null where it is null
     * @param scope which of its tables is meant; null for the one without a scope
     * @throws dev.nachlauf.core.value.ValueProblem where there is none
     */
    @Nullable
    String translate(@Nullable String value, @Nullable String scope);
}

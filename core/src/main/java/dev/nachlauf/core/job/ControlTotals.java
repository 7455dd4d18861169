package dev.nachlauf.core.job;

import dev.nachlauf.core.formula.FormulaSource;
import java.util.List;
import java.util.Optional;

/**
 * Figures that prove a run beside its count of rows.
 *
 * @param fails whether a difference fails the run; otherwise it is held
 * @param records whether the target has to hold as many records afterwards as before, with those inserted and without
 *     those deleted
 */
public record ControlTotals(List<Sum> sums, boolean records, boolean fails) {
    /** No figure. */
    public static final ControlTotals NONE = new ControlTotals(List.of(), false, false);

    public ControlTotals {
        sums = List.copyOf(sums);
    }

    /**
     * A figure that is added up over the rows of the source.
     *
     * @param of over what was read
     * @param expected over parameters; what all rows have to add up to
     * @param target the field of the main write that has to add up to the same in the records of the rows that were written
     */
    public record Sum(
            Placed<String> name, FormulaSource of, Optional<FormulaSource> expected, Optional<Placed<String>> target) {}

    /** Whether nothing is to be proved. */
    public boolean isEmpty() {
        return sums.isEmpty() && !records;
    }

    /** Whether something may differ that is known before anything is written. */
    public boolean expects() {
        return sums.stream().anyMatch(sum -> sum.expected().isPresent());
    }
}

package dev.nachlauf.core.load;

import dev.nachlauf.core.step.Amount;
import java.math.BigDecimal;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A figure of the source, added up by what became of its rows. The parts add up to what was read.
 *
 * @param name the name in the job
 * @param written rows that a write took, also where nothing had to be changed for them
 * @param stored those of them of which the main write has a record, which it need not have of all
 * @param unreached rows that the run did not come to
 * @param expected what the sum of all rows has to be; null where the job doesn't say
 * @param target what the target holds now in these records; null where that isn't compared, or nothing
 *     was written
 */
public record ControlTotal(
        String name,
        Amount skipped,
        Amount rejected,
        Amount written,
        Amount stored,
        Amount unreached,
        @Nullable BigDecimal expected,
        @Nullable BigDecimal target) {
    /** The sum of all rows of the source. */
    public Amount read() {
        return skipped.plus(rejected).plus(written).plus(unreached);
    }

    /** By how much the source is above what is expected; empty where it is equal, or nothing is. */
    public Optional<BigDecimal> beyondExpected() {
        return difference(read().sum(), expected);
    }

    /** By how much the target is above what was written to it; empty where it is equal, or isn't compared. */
    public Optional<BigDecimal> beyondStored() {
        return target == null ? Optional.empty() : difference(target, stored.sum());
    }

    private static Optional<BigDecimal> difference(BigDecimal found, @Nullable BigDecimal wanted) {
        return Optional.ofNullable(wanted).map(found::subtract).filter(gap -> gap.signum() != 0);
    }
}

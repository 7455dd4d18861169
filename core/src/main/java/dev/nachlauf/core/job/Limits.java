package dev.nachlauf.core.job;

import java.math.BigDecimal;
import java.util.Optional;

/**
 * Limits of a run; empty where there is none.
 *
 * @param rejected how many rows of the source may be rejected
 * @param updated how many records may be changed
 * @param deleted how many records may be removed
 */
public record Limits(Optional<Limit> rejected, Optional<Limit> updated, Optional<Limit> deleted) {
    /** No limits. */
    public static final Limits NONE = new Limits(Optional.empty(), Optional.empty(), Optional.empty());

    /** A number, or a share of the rows in percent. */
    public sealed interface Limit {
        record Rows(long most) implements Limit {}

        record Percent(double most) implements Limit {}

        /** Whether so many are too many, where all rows of the source are {@code read}. */
        default boolean crossed(long count, long read) {
            return switch (this) {
                case Rows rows -> count > rows.most;
                case Percent percent -> count * 100.0 > percent.most * read;
            };
        }

        /** As it is written in a job. */
        default String text() {
            return switch (this) {
                case Rows rows -> String.valueOf(rows.most);
                case Percent percent ->
                    new BigDecimal(String.valueOf(percent.most))
                                    .stripTrailingZeros()
                                    .toPlainString() + " %";
            };
        }
    }
}

package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The figures that prove a run beside its count of rows.
 *
 * @param records how many records its targets hold, where the job compares that
 */
public record ControlTotalsView(List<Sum> sums, List<Records> records) {
    /**
     * A figure of the source, added up by what became of its rows. Numbers are exact and written with a point.
     *
     * @param name its name in the job
     * @param written of the rows that a write took, changed or not
     * @param unreached of the rows that the run did not come to
     * @param unread rows of which the figure could not be read; it is missing in the sums
     * @param expected what {@code read} has to be; null where nothing is expected
     * @param target what the target holds in the records of the written rows; null where that isn't compared, or nothing was
     *     written
     * @param differs whether a comparison found a difference
     */
    public record Sum(
            String name,
            String read,
            String skipped,
            String rejected,
            String written,
            String unreached,
            long unread,
            @Nullable String expected,
            @Nullable String target,
            boolean differs) {}

    /**
     * The count of a target's records.
     *
     * @param target the connection and the record type
     * @param after counted when the run had written everything
     * @param differs whether {@code after} is not {@code before}, with those inserted and without those deleted
     */
    public record Records(String target, long before, long inserted, long deleted, long after, boolean differs) {}
}

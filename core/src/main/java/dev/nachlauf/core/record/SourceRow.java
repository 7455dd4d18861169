package dev.nachlauf.core.record;

import dev.nachlauf.core.problem.Problem;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A row as it was read.
 *
 * @param number data rows from 1 in reading order
 * @param cells the cells: text, or a value of another {@link dev.nachlauf.core.value.Kind} where the source has typed
 *     values; an empty one is null
 * @param problems what the reader found wrong with the row; it is rejected then
 */
public record SourceRow(
        long number, Origin origin, @Nullable Object[] cells, List<Problem> problems) {
    /** A row with which nothing is wrong. */
    public SourceRow(long number, Origin origin, @Nullable Object[] cells) {
        this(number, origin, cells, List.of());
    }

    /** The same row under another number. */
    public SourceRow numbered(long other) {
        return new SourceRow(other, origin, cells, problems);
    }
}

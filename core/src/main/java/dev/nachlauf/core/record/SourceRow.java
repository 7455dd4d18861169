package dev.nachlauf.core.record;

import dev.nachlauf.core.problem.Problem;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A row as it was read.
 *
 * @param number data rows from 1 in reading order
 * @param line the line of the file on which the row starts, from 1
 * @param cells the cells as text; an empty one is null
 * @param problems what the reader found wrong with the row; it is rejected then
 */
public record SourceRow(long number, long line, @Nullable String[] cells, List<Problem> problems) {
    /** A row with which nothing is wrong. */
    public SourceRow(long number, long line, @Nullable String[] cells) {
        this(number, line, cells, List.of());
    }
}

package dev.nachlauf.core.system;

import java.util.BitSet;
import org.jspecify.annotations.Nullable;

/** What becomes of the rows of a file, cell by cell in the order of its columns. */
public interface RowEdits {
    /**
     * What becomes of a row that starts at a line; rows are asked for in order.
     *
     * @param sheet empty where files have no sheets
     * @param path empty where the line says all
     * @return null where the row stays as it is
     * @see dev.nachlauf.core.record.Origin
     */
    @Nullable
    Edit at(String sheet, long line, String path);

    /** The cells of the next row that is added behind all others; null where there is none any more. */
    @Nullable
    Object @Nullable [] next();

    /**
     * A row that doesn't stay as it is.
     *
     * @param gone whether it is taken out
     * @param changed which cells change; the others stay as they are spelled
     */
    record Edit(boolean gone, BitSet changed, @Nullable Object[] cells) {}
}

package dev.nachlauf.core.system;

import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Writes a table of texts into a file, in constant memory. Implementations are found by the service loader. */
public interface TableFormat {
    /** The word for it, which is also the ending of its files. */
    String name();

    /**
     * Begins a table.
     *
     * @param name of the sheet, where the format has such
     * @param columns their heads and widths
     */
    TableWriter write(OutputStream out, String name, List<Column> columns);

    /** What a reader will find in a cell that was written with a text: what the format has no place for is left out. */
    String shown(@Nullable String text);

    /**
     * A column.
     *
     * @param width in characters
     */
    record Column(String head, int width) {}

    /** Takes the rows; closing it ends the file, but not the stream. */
    interface TableWriter extends AutoCloseable {
        /** Writes a row; null for an empty cell. */
        void row(List<@Nullable String> cells) throws IOException;

        @Override
        void close() throws IOException;
    }
}

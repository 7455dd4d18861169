package dev.nachlauf.connectors.format.workbook;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** The sheets of an opened workbook. */
interface Sheets extends AutoCloseable {
    /** All sheets in order. */
    List<Sheet> sheets();

    /** Reads a sheet from its start. */
    Rows open(Sheet sheet);

    @Override
    void close();

    /** A sheet; {@code number} from 1. */
    record Sheet(int number, String name, boolean hidden) {}

    /** The filled rows of a sheet, one after the other. */
    interface Rows extends AutoCloseable {
        /** The next filled row; null at the end. */
        @Nullable
        Row next();

        @Override
        void close();
    }

    /**
     * A row of a sheet.
     *
     * @param number of the row in the sheet, from 1
     * @param cells from the first column on; values as rows hold them, or a {@link CellError}
     */
    record Row(long number, @Nullable Object[] cells) {
        /** The cell of a column, from 0; null behind the last one. */
        @Nullable
        Object cell(int column) {
            return column < cells.length ? cells[column] : null;
        }
    }

    /** What a cell shows instead of a value, such as {@code #N/A}. */
    record CellError(String shown) {}
}

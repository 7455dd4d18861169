package dev.nachlauf.core.record;

import dev.nachlauf.core.value.Values;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Rows as they were read, side by side as texts, for those few of them at which people look. */
public final class TextRows {
    private static final int NULL = -1;

    private final byte[] data;
    /** Where each cell begins, and where it ends; a null one has no end. */
    private final int[] bounds;
    /** Which cell is the first of each row, and how many there are in all rows. */
    private final int[] rows;

    private TextRows(byte[] data, int[] bounds, int[] rows) {
        this.data = data;
        this.bounds = bounds;
        this.rows = rows;
    }

    /** The cells of a row; null for empty ones. */
    public List<@Nullable String> cells(int row) {
        List<@Nullable String> cells = new ArrayList<>();
        for (int cell = rows[row]; cell < rows[row + 1] - 1; cell++) {
            cells.add(text(cell));
        }
        return cells;
    }

    /** The path of a row in its source; empty where its line says all. */
    public String path(int row) {
        String path = text(rows[row + 1] - 1);
        return path == null ? "" : path;
    }

    private @Nullable String text(int cell) {
        int from = bounds[cell * 2];
        int to = bounds[cell * 2 + 1];
        return to == NULL ? null : new String(data, from, to - from, StandardCharsets.UTF_8);
    }

    /** Collects rows. */
    public static final class Builder {
        private final int width;
        private final ByteSink data;
        private int[] bounds;
        private int cells;
        private int[] rows;
        private int count;

        /**
         * Without rows.
         *
         * @param width how many cells a row has at least
         * @param rows about how many rows there will be
         */
        public Builder(int width, int rows) {
            this.width = width;
            this.data = new ByteSink(Math.max(64, rows * width * 8));
            this.bounds = new int[(rows * (width + 1) + 1) * 2];
            this.rows = new int[rows + 1];
        }

        /** Adds a row, with its path in its source. */
        public void add(SourceRow row) {
            if (count + 1 == rows.length) {
                rows = Arrays.copyOf(rows, rows.length * 2);
            }
            rows[count++] = cells;
            RowText text = row.text();
            if (text == null) {
                add(row.cells());
            } else {
                add(text);
            }
            String path = row.origin().path();
            add(path.isEmpty() ? null : path);
        }

        private void add(@Nullable Object[] row) {
            for (int column = 0; column < Math.max(width, row.length); column++) {
                add(column < row.length ? Values.text(row[column]) : null);
            }
        }

        private void add(RowText row) {
            room(row.width());
            int offset = data.size();
            int[] from = row.bounds();
            for (int i = 0; i < from.length; i += 2) {
                bounds[cells * 2] = offset + from[i];
                bounds[cells * 2 + 1] = from[i] == from[i + 1] ? NULL : offset + from[i + 1];
                cells++;
            }
            data.bytes(row.data());
            for (int column = row.width(); column < width; column++) {
                add((String) null);
            }
        }

        private void add(@Nullable String text) {
            room(1);
            bounds[cells * 2] = data.size();
            if (text != null) {
                data.bytes(text.getBytes(StandardCharsets.UTF_8));
            }
            bounds[cells * 2 + 1] = text == null ? NULL : data.size();
            cells++;
        }

        private void room(int more) {
            if ((cells + more) * 2 > bounds.length) {
                bounds = Arrays.copyOf(bounds, Math.max(bounds.length * 2, (cells + more) * 2));
            }
        }

        /** The rows; none can be added any more. */
        public TextRows build() {
            rows[count] = cells;
            return new TextRows(data.array(), bounds, rows);
        }
    }
}

package dev.nachlauf.core.record;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * Rows as bytes, one cell behind the other, each in the form of its {@link CellCodec}. What is behind the map works on
 * blocks, so that nothing is allocated for a row there; a value is decoded only for people.
 */
public final class RowBlock {
    private final int rows;
    private final int width;
    private final byte[] data;
    /** Where each cell begins, row by row; and where the last one ends. */
    private final int[] starts;

    private RowBlock(int rows, int width, byte[] data, int[] starts) {
        this.rows = rows;
        this.width = width;
        this.data = data;
        this.starts = starts;
    }

    /** How many rows there are. */
    public int rows() {
        return rows;
    }

    /** How many cells a row has. */
    public int width() {
        return width;
    }

    /** All cells; not to be changed. */
    public byte[] data() {
        return data;
    }

    /** Where a cell begins. */
    public int at(int row, int column) {
        return starts[row * width + column];
    }

    /** Where a cell ends. */
    public int end(int row, int column) {
        return starts[row * width + column + 1];
    }

    /** Whether a cell is null. */
    public boolean isNull(int row, int column) {
        return CellCodec.length(data, at(row, column)) < 0;
    }

    /** The value of a cell. */
    public @Nullable Object value(int row, int column, CellCodec codec) {
        return codec.read(data, at(row, column));
    }

    /** Collects rows, cell by cell. */
    public static final class Builder {
        private final int width;
        private final ByteSink data;
        private int[] starts;
        private int cells;

        /** @param rows about how many rows there will be */
        public Builder(int width, int rows) {
            this.width = width;
            this.data = new ByteSink(Math.max(64, rows * width * 12));
            this.starts = new int[rows * width + 1];
        }

        /** Adds a cell. */
        public void add(@Nullable Object value, CellCodec codec) {
            begin();
            codec.write(value, data);
        }

        /** Adds a cell of a block of texts. */
        public void text(@Nullable String text) {
            begin();
            if (text == null) {
                data.int4(CellCodec.NULL);
            } else {
                data.text(text);
            }
        }

        /** Adds a cell as it stands elsewhere. */
        public void add(byte[] bytes, int at) {
            begin();
            data.range(bytes, at, CellCodec.end(bytes, at));
        }

        private void begin() {
            if (cells + 1 >= starts.length) {
                starts = Arrays.copyOf(starts, starts.length * 2 + 1);
            }
            starts[cells++] = data.size();
        }

        /** How many whole rows there are so far. */
        public int rows() {
            return width == 0 ? 0 : cells / width;
        }

        /** The block; nothing can be added any more. */
        public RowBlock build() {
            starts[cells] = data.size();
            return new RowBlock(rows(), width, data.array(), starts);
        }
    }
}

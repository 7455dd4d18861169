package dev.nachlauf.core.record;

import dev.nachlauf.core.problem.Problem;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A row as it was read. */
public final class SourceRow {
    private static final int TYPED = 8;

    private final long number;
    private final Origin origin;
    /** Where {@code text} holds the cells, those of them that somebody has asked for. */
    private final @Nullable Object[] cells;

    private final @Nullable RowText text;
    private final List<Problem> problems;
    /** Whether all cells are there. */
    private boolean whole;

    private SourceRow(
            long number, Origin origin, @Nullable Object[] cells, @Nullable RowText text, List<Problem> problems) {
        this.number = number;
        this.origin = origin;
        this.cells = cells;
        this.text = text;
        this.problems = problems;
        this.whole = text == null;
    }

    /**
     * A row.
     *
     * @param number data rows from 1 in reading order
     * @param cells the cells: text, or a value of another {@link dev.nachlauf.core.value.Kind} where the source has typed
     *     values; an empty one is null
     * @param problems what the reader found wrong with the row; it is rejected then
     */
    public SourceRow(long number, Origin origin, @Nullable Object[] cells, List<Problem> problems) {
        this(number, origin, cells, null, problems);
    }

    /** A row with which nothing is wrong. */
    public SourceRow(long number, Origin origin, @Nullable Object[] cells) {
        this(number, origin, cells, null, List.of());
    }

    /** A row of a text with which nothing is wrong. */
    public SourceRow(long number, Origin origin, RowText text) {
        this(number, origin, new Object[text.width()], text, List.of());
    }

    /** The same row under another number. */
    public SourceRow numbered(long other) {
        return new SourceRow(other, origin, cells, text, problems);
    }

    /** Data rows from 1 in reading order. */
    public long number() {
        return number;
    }

    /** Where it stands. */
    public Origin origin() {
        return origin;
    }

    /** What the reader found wrong with it. */
    public List<Problem> problems() {
        return problems;
    }

    /** The cells as bytes; null where the source has no such. */
    public @Nullable RowText text() {
        return text;
    }

    /** All cells: text, or a value where the source has typed values; an empty one is null. */
    public @Nullable Object[] cells() {
        for (int column = 0; !whole && column < cells.length; column++) {
            cell(column);
        }
        whole = true;
        return cells;
    }

    /** How many cells there are. */
    public int width() {
        return cells.length;
    }

    /** One of the cells; null where it is empty. */
    public @Nullable Object cell(int column) {
        if (!whole && text != null && cells[column] == null) {
            cells[column] = text.text(column);
        }
        return cells[column];
    }

    /** About how many characters the cells hold. */
    public long characters() {
        if (text != null) {
            return text.characters();
        }
        long sum = 0;
        for (Object cell : cells) {
            sum += cell instanceof String one ? one.length() + 1 : TYPED;
        }
        return sum;
    }

    /** Whether a value is a certain cell itself, and not only equal to it. */
    public boolean holds(int column, @Nullable Object value) {
        return value != null && column < cells.length && cells[column] == value;
    }

    /** Whether a value is one of its cells itself, and not only equal to it. */
    public boolean holds(Object value) {
        for (Object cell : cells) {
            if (cell == value) {
                return true;
            }
        }
        return false;
    }
}

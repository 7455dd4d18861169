package dev.nachlauf.connectors.format.fixed;

import dev.nachlauf.connectors.format.encoding.EditedLines;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Lines of fixed width with edits: numbers stand at the right of their columns, all else at the left. */
record FixedEdits(List<FixedColumn> columns) implements EditedLines.Rows {
    @Override
    public String changed(String line, RowEdits.Edit edit) {
        StringBuilder changed = new StringBuilder(line);
        for (int i = 0; i < edit.cells().length; i++) {
            if (edit.changed().get(i)) {
                put(changed, columns.get(i), edit.cells()[i]);
            }
        }
        return changed.toString();
    }

    @Override
    public String line(@Nullable Object[] cells) {
        StringBuilder line = new StringBuilder();
        for (int i = 0; i < cells.length; i++) {
            put(line, columns.get(i), cells[i]);
        }
        return line.toString();
    }

    /** What is longer than its column was rejected before. */
    private static void put(StringBuilder line, FixedColumn column, @Nullable Object value) {
        line.repeat(' ', Math.max(0, column.to() - line.length()));
        String text = Objects.requireNonNullElse(Values.text(value), "");
        String blanks = " ".repeat(column.to() - column.from() + 1 - text.length());
        boolean right = value instanceof Long || value instanceof BigDecimal;
        line.replace(column.from() - 1, column.to(), right ? blanks + text : text + blanks);
    }
}

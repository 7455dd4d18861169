package dev.nachlauf.connectors.format.json;

import dev.nachlauf.connectors.format.encoding.EditedLines;
import dev.nachlauf.core.system.RowEdits;
import org.jspecify.annotations.Nullable;

/** Objects on lines of their own with edits. */
record JsonLineEdits(JsonObjectEdits objects) implements EditedLines.Rows {
    @Override
    public String changed(String line, RowEdits.Edit edit) {
        return objects.changed(line, edit);
    }

    @Override
    public String line(@Nullable Object[] cells) {
        return objects.added(cells);
    }
}

package dev.nachlauf.connectors.format.nested;

import dev.nachlauf.core.record.SourceField;
import java.util.BitSet;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** What the edits of nested records have in common. */
public final class NestedCells {
    private NestedCells() {}

    /** The cells of a new record that hold something; nothing is written of the others. */
    public static BitSet filled(@Nullable Object[] cells) {
        BitSet filled = new BitSet();
        for (int cell = 0; cell < cells.length; cell++) {
            filled.set(cell, cells[cell] != null);
        }
        return filled;
    }

    /** Why a field can't be changed with its record. */
    public static Optional<String> whyFixed(SourceField field) {
        return field.address().startsWith("../")
                ? Optional.of("it belongs to what stands around the records")
                : Optional.empty();
    }
}

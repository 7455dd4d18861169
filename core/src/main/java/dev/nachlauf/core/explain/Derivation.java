package dev.nachlauf.core.explain;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Where a value comes from.
 *
 * @param name of the field, step's field or column
 * @param value null for none, or where nobody can tell it again
 * @param how the formula, or in words what has made it; empty for a cell as it stands
 * @param place of the cell, for people; empty for what is no cell
 * @param translated what crosswalks translated in its formula, in order
 * @param from what its formula has read, each once
 */
public record Derivation(
        Kind kind,
        String name,
        @Nullable Object value,
        String how,
        String place,
        List<Translated> translated,
        List<Derivation> from) {
    public Derivation {
        translated = List.copyOf(translated);
        from = List.copyOf(from);
    }

    /** What has made a value. */
    public enum Kind {
        MAP,
        SET,
        CELL,
        /** A step that finds a record. */
        LOOKUP,
        /** A record that is found when the row is written. */
        REFERENCE,
        /** A step that makes other rows of rows. */
        MADE,
        /** A fact of the row, such as its file. */
        FACT,
        /** An earlier write of the same row. */
        RESULT
    }

    /** One translation; {@code scope} is null for the table without one. */
    public record Translated(
            String crosswalk,
            @Nullable String value,
            @Nullable String scope,
            @Nullable String translation) {}
}

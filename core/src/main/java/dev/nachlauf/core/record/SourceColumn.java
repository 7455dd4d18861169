package dev.nachlauf.core.record;

import dev.nachlauf.core.value.Reading;

/**
 * A field of a source and how its cells are most likely read.
 *
 * @param question what has to be asked because a sample can't tell, such as which of two numbers is the month; empty
 *     where there is nothing to ask
 */
public record SourceColumn(SourceField field, Reading reading, String question) {
    /** The name that formulas use. */
    public String name() {
        return field.name();
    }

    /** A column that is text. */
    public static SourceColumn text(SourceField field) {
        return new SourceColumn(field, Reading.TEXT, "");
    }
}

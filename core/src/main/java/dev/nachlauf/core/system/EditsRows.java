package dev.nachlauf.core.system;

import dev.nachlauf.core.record.SourceField;
import java.io.IOException;
import java.io.OutputStream;
import java.util.Optional;

/** A {@link SourceFormat} whose files can be given on with some rows changed, added or taken out. */
public interface EditsRows {
    /**
     * Makes sure that files which are read so can take edits, before any is made.
     *
     * @param file its name, to speak of it
     * @throws dev.nachlauf.core.problem.CannotGoOn where they can't
     */
    default void requireEditable(String file, FormatOptions options) {
        // most can, however they are read
    }

    /** Why the values of a field can't be changed; empty where they can. */
    default Optional<String> whyFixed(SourceField field) {
        return Optional.empty();
    }

    /**
     * Copies a file with edits. Rows that don't change stay as they are, and so does whatever else is in the file.
     *
     * @param options as the file was read with
     * @throws dev.nachlauf.core.problem.CannotGoOn where the file can't be read, or can't take the edits
     */
    void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, OutputStream out) throws IOException;
}

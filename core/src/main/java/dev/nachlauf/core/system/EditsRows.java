package dev.nachlauf.core.system;

import java.io.IOException;
import java.io.OutputStream;

/** A {@link SourceFormat} whose files can be given on with some rows changed, added or taken out. */
public interface EditsRows {
    /**
     * Copies a file with edits. Rows that don't change stay as they are, and so does whatever else is in the file.
     *
     * @param options as the file was read with
     * @throws dev.nachlauf.core.problem.CannotGoOn where the file can't be read, or can't take the edits
     */
    void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, OutputStream out) throws IOException;
}

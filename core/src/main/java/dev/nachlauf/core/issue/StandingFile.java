package dev.nachlauf.core.issue;

import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;

/** A file that is there already and takes the rows of a run: as the run has found it, whatever happens to it later. */
public interface StandingFile {
    /** The names of its columns, in order. */
    List<String> columns();

    /** Its rows from the start. */
    SourceReader read();

    /** Gives it on with edits, as {@link dev.nachlauf.core.system.EditsRows#copy}. */
    void copy(RowEdits edits, OutputStream out) throws IOException;
}

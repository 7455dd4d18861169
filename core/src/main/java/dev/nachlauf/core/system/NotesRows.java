package dev.nachlauf.core.system;

import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A {@link SourceFormat} whose files can be given back as they came, with something noted beside each row. */
public interface NotesRows {
    /**
     * Copies a file and adds columns behind its own. Whatever else is in it stays as it is.
     *
     * @param options as the file was read with
     * @param heads the names of the columns, where the file has a heading
     * @throws dev.nachlauf.core.problem.CannotGoOn where the file can't be read
     */
    void copy(SourceBytes bytes, FormatOptions options, List<String> heads, Notes notes, OutputStream out)
            throws IOException;

    /** What is noted, part by part of a file. */
    interface Notes {
        /**
         * The notes of a part, from its start.
         *
         * @param sheet empty where files have no sheets
         */
        NotesOfPart of(String sheet);
    }

    /** What is noted beside the rows of a part, in their order. */
    interface NotesOfPart extends AutoCloseable {
        /**
         * What is noted beside a row that starts at a line; lines are asked for in order.
         *
         * @return a text for each head; null where no row starts there
         */
        @Nullable
        List<String> at(long line);

        @Override
        void close();
    }
}

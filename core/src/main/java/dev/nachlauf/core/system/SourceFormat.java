package dev.nachlauf.core.system;

import dev.nachlauf.core.record.SourceRow;
import java.io.InputStream;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Turns bytes into rows. Implementations are found by the service loader. */
public interface SourceFormat {
    /** The word in job files, such as {@code delimited}. */
    String name();

    /** The options that {@code format:} takes beside {@code as}. */
    List<Setting> options();

    /**
     * Starts to read. The reader owns the stream and reads it once, in constant memory.
     *
     * @param file the name for messages
     * @param options what the job says; the rest is detected
     * @throws dev.nachlauf.core.problem.CannotGoOn where the file can't be this format
     */
    SourceReader read(String file, InputStream bytes, Map<String, String> options);

    /** Rows, one after the other. */
    interface SourceReader extends AutoCloseable {
        /** The names of the fields. */
        List<String> header();

        /** The options in force, detected ones included. */
        Map<String, String> options();

        /**
         * The next row; null at the end.
         *
         * @throws dev.nachlauf.core.problem.CannotGoOn where the rest can't be read
         */
        @Nullable
        SourceRow next();

        @Override
        void close();
    }
}

package dev.nachlauf.core.system;

import dev.nachlauf.core.value.Kind;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Writes rows of values into a file, in constant memory. Implementations are found by the service loader. */
public interface OutputFormat {
    /** The word in job files, such as {@code delimited}. */
    String name();

    /** The endings of names by which a file of this format is known, such as {@code csv}. */
    List<String> endings();

    /** The options that {@code format:} takes beside {@code as}. */
    List<Setting> options();

    /**
     * What a field has to be so that it can be written: it may be too long, or hold characters that the encoding lacks.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn where an option can't be used
     */
    FieldDescription demanded(FieldDescription field, FormatOptions options);

    /**
     * Begins a file.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn where an option can't be used
     */
    RowWriter write(OutputStream out, List<Field> fields, FormatOptions options) throws IOException;

    /** A field of the file. */
    record Field(String name, Kind kind) {}

    /** Takes the rows; closing it ends the file, but not the stream. */
    interface RowWriter extends AutoCloseable {
        /** Writes a row; null for what is empty. */
        void row(@Nullable Object[] values) throws IOException;

        @Override
        void close() throws IOException;
    }
}

package dev.nachlauf.core.system;

import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.value.Kind;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Turns bytes into rows. Implementations are found by the service loader. */
public interface SourceFormat {
    /** The word in job files, such as {@code delimited}. */
    String name();

    /** The options that {@code format:} takes beside {@code as}. */
    List<Setting> options();

    /**
     * Whether bytes are of this format.
     *
     * @param file the name, whose ending is a hint
     * @param start the first bytes, at most {@link #START}
     * @return empty where they are not
     */
    Optional<Detected> recognise(String file, byte[] start);

    /** How many bytes are looked at to recognise a format. */
    int START = 64 * 1024;

    /**
     * Starts to read, in constant memory.
     *
     * @param options what the job says; the rest is detected
     * @throws dev.nachlauf.core.problem.CannotGoOn where the file can't be this format
     */
    SourceReader read(SourceBytes bytes, FormatOptions options);

    /** Rows, one after the other. */
    interface SourceReader extends AutoCloseable {
        /** The fields, which is also the order of the cells. */
        List<SourceField> fields();

        /** The options in force, detected ones included. */
        List<Detected> options();

        /**
         * From now on only these fields are of interest: the cells of others may be null. A reader that saves nothing by
         * it may give them all the same; rows, their places and their problems are as ever.
         */
        default void needOnly(BitSet fields) {
            // a reader may give more than is needed
        }

        /**
         * The next row; null at the end.
         *
         * @throws dev.nachlauf.core.problem.CannotGoOn where the rest can't be read
         */
        @Nullable
        SourceRow next();

        /** The kinds of the fields in order, where the source itself knows them; empty where it doesn't. */
        default List<Kind> kinds() {
            return List.of();
        }

        /** Parts of the source that lack some of the fields, such as a sheet without one of the columns. */
        default List<Lack> lacks() {
            return List.of();
        }

        /** The line with control figures that closed the source; known after the last row. */
        default Optional<Trailer> trailer() {
            return Optional.empty();
        }

        @Override
        void close();
    }

    /** A part of a source, for people, and the fields that it lacks. */
    record Lack(String part, List<String> fields) {}

    /** A closing line with control figures: its cells by position. */
    record Trailer(String place, List<String> cells) {}
}

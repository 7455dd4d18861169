package dev.nachlauf.api;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A source to look at: an uploaded file, a file of a connection, records of one, or a pasted sample.
 *
 * @param file the hash of an uploaded file
 * @param fileName the name of a connection's file, or the uploaded file's for people
 * @param connection where the file or the records are
 * @param records a record type of the connection
 * @param query a query to the connection
 * @param sample pasted text
 * @param as the format; null where it is to be detected
 * @param options the format's options that are known; the rest is detected
 * @param fields how fields are read, by name; the rest is detected
 * @param rows how many rows to show, at most 200; 20 unless stated
 */
public record SourceRequest(
        @Nullable String file,
        @Nullable String fileName,
        @Nullable String connection,
        @Nullable String records,
        @Nullable String query,
        @Nullable String sample,
        @Nullable String as,
        @Nullable Map<String, String> options,
        @Nullable List<FieldReading> fields,
        @Nullable Integer rows) {
    /**
     * How a field is read.
     *
     * @param pattern for dates and times, such as dd.MM.yyyy; for truths, such as ja,x/nein
     * @param locale for numbers, such as de
     */
    public record FieldReading(
            String name,
            String is,
            @Nullable String pattern,
            @Nullable String locale) {}
}

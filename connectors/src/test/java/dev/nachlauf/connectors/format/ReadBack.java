package dev.nachlauf.connectors.format;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat;
import dev.nachlauf.core.system.SourceFormat.Lack;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.SourceFormat.Trailer;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** A file as a format reads it, whole. */
public record ReadBack(
        List<String> names,
        List<SourceField> fields,
        List<Detected> options,
        List<SourceRow> rows,
        List<Lack> lacks,
        Optional<Trailer> trailer) {

    /** Reads bytes under a name. */
    public static ReadBack of(SourceFormat format, String name, byte[] bytes, Map<String, String> options) {
        try {
            Path file = Files.createTempFile("read-back", null);
            try {
                Files.write(file, bytes);
                return of(format, SourceBytes.of(name, file), FormatOptions.of(options));
            } finally {
                Files.delete(file);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Reads a text in UTF-8. */
    public static ReadBack of(SourceFormat format, String text, Map<String, String> options) {
        return of(format, "huts." + format.name(), text.getBytes(StandardCharsets.UTF_8), options);
    }

    /** Reads a file. */
    public static ReadBack of(SourceFormat format, SourceBytes bytes, FormatOptions options) {
        try (SourceReader reader = format.read(bytes, options)) {
            List<SourceRow> rows = new ArrayList<>();
            for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                rows.add(row);
            }
            List<String> names = reader.fields().stream().map(SourceField::name).toList();
            return new ReadBack(names, reader.fields(), reader.options(), rows, reader.lacks(), reader.trailer());
        }
    }

    /** The code of the first problem with a file that can't be read to its end. */
    public static ProblemCode failure(SourceFormat format, String text, Map<String, String> options) {
        try {
            of(format, text, options);
        } catch (CannotGoOn e) {
            return e.problems().getFirst().code();
        }
        throw new AssertionError("it was read");
    }

    /** The cells of a row, from 0. */
    public List<Object> cells(int row) {
        return Arrays.asList(rows.get(row).cells());
    }

    /** The value of an option in force. */
    public String option(String name) {
        return options.stream()
                .filter(option -> option.option().equals(name))
                .map(Detected::value)
                .findFirst()
                .orElse("");
    }

    /** The codes of what is wrong with a row, from 0. */
    public List<ProblemCode> problems(int row) {
        return rows.get(row).problems().stream().map(Problem::code).toList();
    }

    /** Where a value stands, for people. */
    public String place(int row, String name) {
        return rows.get(row).origin().text(fields.get(names.indexOf(name)));
    }
}

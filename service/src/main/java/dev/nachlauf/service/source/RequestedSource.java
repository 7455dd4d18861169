package dev.nachlauf.service.source;

import dev.nachlauf.api.FileView;
import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.source.CursorReader;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.ReadsRecords.RecordQuery;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.look.RowWatch;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Turns what people ask to see into something that can be opened as often as wanted. */
@Component
class RequestedSource {
    private final Connections connections;
    private final FileStore files;
    private final Sources sources;

    RequestedSource(Connections connections, FileStore files, Sources sources) {
        this.connections = connections;
        this.files = files;
        this.sources = sources;
    }

    /**
     * A source that can be opened.
     *
     * @param parts its files; empty where it consists of records
     * @param format the format and what it was concluded from
     * @param sensitive columns whose values the connection keeps from those who look
     * @param open opens it at its start
     */
    record Found(
            String name, List<SourcePart> parts, Detected format, Set<String> sensitive, Supplier<SourceReader> open) {}

    Found find(SourceRequest request, Path scratch) {
        if (request.records() != null || request.query() != null) {
            return records(request);
        }
        FileView file = file(request);
        FormatOptions options = FormatOptions.of(Objects.requireNonNullElse(request.options(), Map.of()));
        Detected format = request.as() == null
                ? sources.recognise(file, scratch)
                : Detected.stated("as", sources.format(request.as()).name());
        List<SourcePart> parts = sources.parts(List.of(file), Optional.ofNullable(request.as()), options, scratch);
        checkOptions(parts.getFirst().format(), options);
        OpenedSource opened = sources.look(parts, declared(request), scratch);
        // one part keeps what it detected with its evidence; several are read as they were settled
        Supplier<SourceReader> open = opened.parts().size() == 1
                ? () -> sources.open(parts.getFirst(), declared(request), scratch)
                : () -> sources.joined(opened.parts(), opened.fields(), declared(request), scratch);
        return new Found(file.name(), opened.parts(), format, Set.of(), open);
    }

    private static List<String> declared(SourceRequest request) {
        return request.fields() == null
                ? List.of()
                : request.fields().stream()
                        .map(SourceRequest.FieldReading::name)
                        .toList();
    }

    private void checkOptions(String format, FormatOptions options) {
        List<String> known = sources.format(format).options().stream()
                .map(setting -> setting.name())
                .toList();
        options.stated().keySet().stream()
                .filter(name -> !known.contains(name))
                .findFirst()
                .ifPresent(name -> {
                    throw new CannotGoOn(Problem.of(
                            ProblemCode.SETTING_UNKNOWN,
                            "The format " + format + " has no option " + name + ".",
                            "Options: " + String.join(", ", known) + "."));
                });
    }

    private FileView file(SourceRequest request) {
        String name = Objects.requireNonNullElse(request.fileName(), "sample");
        if (request.sample() != null) {
            try {
                return files.keep(
                        name, new ByteArrayInputStream(request.sample().getBytes(StandardCharsets.UTF_8)));
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
        if (request.file() != null) {
            return files.find(request.file(), name);
        }
        if (request.connection() == null || request.fileName() == null) {
            throw incomplete();
        }
        try (OpenSystem system = connections.opened(request.connection())) {
            if (!(system instanceof HoldsFiles place)) {
                throw unfit(request.connection(), "holds no files");
            }
            List<FileView> found = sources.fetch(request.connection(), place, request.fileName());
            if (found.isEmpty()) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.FILE_MISSING,
                        "No file " + request.fileName() + " is in " + request.connection() + ".",
                        "connection files " + request.connection() + " shows what is there."));
            }
            return found.getFirst();
        }
    }

    private static CannotGoOn incomplete() {
        return new CannotGoOn(Problem.of(
                ProblemCode.REQUEST_MALFORMED,
                "Nothing to look at was named.",
                "Name an uploaded file, a connection with a file, records or a query, or paste a sample."));
    }

    private static CannotGoOn unfit(String connection, String lack) {
        return new CannotGoOn(
                Problem.of(ProblemCode.CONNECTION_UNFIT, "The connection " + connection + " " + lack + ".", ""));
    }

    private Found records(SourceRequest request) {
        String connection = Objects.requireNonNullElse(request.connection(), "");
        RecordQuery query = request.records() != null
                ? new RecordQuery.Records(request.records(), List.of())
                : new RecordQuery.Statement(Objects.requireNonNull(request.query()), Map.of());
        String name = connection + " " + Objects.requireNonNullElse(request.records(), "query");
        return new Found(
                name,
                List.of(),
                Detected.stated("as", "records"),
                request.records() == null
                        ? Set.of()
                        : connections.marks(connection).sensitive(request.records()),
                () -> cursor(connection, request.records(), query, name));
    }

    /** The system is closed together with the reader. */
    private SourceReader cursor(String connection, @Nullable String records, RecordQuery query, String name) {
        OpenSystem system = connections.opened(connection);
        try {
            if (!(system instanceof ReadsRecords reads)) {
                throw unfit(connection, "holds no records to read");
            }
            if (records != null && reads.describe(records).isEmpty()) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.RECORDS_UNKNOWN,
                        "The connection " + connection + " has no record type " + records + ".",
                        "connection records " + connection + " shows all."));
            }
            return RowWatch.over(CursorReader.over(name, reads, query));
        } catch (RuntimeException e) {
            system.close();
            throw e;
        }
    }
}

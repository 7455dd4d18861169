package dev.nachlauf.connectors.format.json;

import dev.nachlauf.connectors.format.encoding.BoundedLines;
import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.connectors.format.nested.FlatRecord;
import dev.nachlauf.connectors.format.nested.RecordPath;
import dev.nachlauf.connectors.format.nested.RecordSource;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceBytes;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.ObjectReadContext;

/** The records of JSON Lines. A line is read whole before one of its records is given, so a broken line is one row. */
final class JsonLines implements RecordSource {
    private static final int MOST_RECORDS = 100_000;

    private final String file;
    private final DecodedText text;
    private final BoundedLines lines;
    private final RecordPath path;
    private final boolean stated;
    private final Map<String, String> addresses = new LinkedHashMap<>();
    private final Deque<FlatRecord> ofLine = new ArrayDeque<>();

    private JsonLines(String file, DecodedText text, FormatOptions options) {
        this.file = file;
        this.text = text;
        this.lines = new BoundedLines(file, text.reader());
        this.path = RecordPath.stated(options).orElse(new RecordPath(List.of()));
        this.stated = options.text(RecordPath.RECORD.name()).isPresent();
    }

    static JsonLines open(SourceBytes bytes, FormatOptions options) {
        try {
            return new JsonLines(bytes.file(), DecodedText.open(bytes, options), options);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Override
    public @Nullable FlatRecord next() {
        while (ofLine.isEmpty()) {
            String line = lines.next();
            if (line == null) {
                return null;
            }
            if (!line.isBlank()) {
                read(line);
            }
        }
        return ofLine.poll();
    }

    private void read(String found) {
        boolean replaced = found.indexOf(DecodedText.REPLACEMENT) >= 0;
        String line = replaced ? DecodedText.shown(found) : found;
        List<FlatRecord> records = new ArrayList<>();
        try (JsonParser parser = Json.FACTORY.createParser(ObjectReadContext.empty(), line)) {
            JsonWalk walk = new JsonWalk(parser, path, addresses);
            for (FlatRecord record = walk.next(); record != null; record = walk.next()) {
                records.add(at(record));
                if (records.size() > MOST_RECORDS) {
                    broken(line, ProblemCode.FILE_TOO_LARGE, "The line holds more than " + MOST_RECORDS + " records.");
                    return;
                }
            }
            if (parser.nextToken() != null) {
                broken(line, ProblemCode.FILE_MALFORMED, "Something follows behind the end of the line's value.");
                return;
            }
        } catch (JacksonException e) {
            broken(line, ProblemCode.FILE_MALFORMED, "The line is not JSON: " + Malformed.reason(e) + ".");
            return;
        }
        if (replaced) {
            Problem wrong = text.wrongEncoding(new Place.InFile(file, lines.number()), "The line");
            records.forEach(record -> record.problems().add(wrong));
        }
        ofLine.addAll(records);
    }

    private FlatRecord at(FlatRecord record) {
        FlatRecord placed = new FlatRecord(lines.number(), record.path());
        record.values().forEach(placed::put);
        placed.problems().addAll(record.problems());
        return placed;
    }

    private void broken(String line, ProblemCode code, String sentence) {
        ofLine.add(FlatRecord.broken(
                lines.number(), "", line, Problem.of(code, sentence, "Correct the line, or ask for the file again.")));
    }

    @Override
    public Map<String, String> addresses() {
        return addresses;
    }

    @Override
    public List<Detected> options() {
        return stated
                ? List.of(Detected.stated(RecordPath.RECORD.name(), path.text()), text.encoding())
                : List.of(text.encoding());
    }

    @Override
    public void close() {
        lines.close();
    }
}

package dev.nachlauf.connectors.format.json;

import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.connectors.format.nested.FlatRecord;
import dev.nachlauf.connectors.format.nested.RecordPath;
import dev.nachlauf.connectors.format.nested.RecordSource;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceBytes;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.ObjectReadContext;

/** The records of one JSON document. Behind a syntax error nothing can be found any more, so reading ends there. */
final class JsonDocument implements RecordSource {
    private final String file;
    private final DecodedText text;
    private final JsonParser parser;
    private final JsonWalk walk;
    private final Detected path;
    private final Map<String, String> addresses = new LinkedHashMap<>();
    private long records;

    private JsonDocument(String file, DecodedText text, Detected path) {
        this.file = file;
        this.text = text;
        this.path = path;
        this.parser = Json.FACTORY.createParser(ObjectReadContext.empty(), text.reader());
        this.walk = new JsonWalk(parser, names(path), addresses);
    }

    /** The path as it was stated or found; without names where the outermost list or object is meant. */
    static RecordPath names(Detected path) {
        return path.value().isEmpty()
                ? new RecordPath(List.of())
                : new RecordPath(List.of(path.value().split("\\.")));
    }

    static JsonDocument open(SourceBytes bytes, FormatOptions options, Detected path) {
        try {
            return new JsonDocument(bytes.file(), DecodedText.open(bytes, options), path);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Override
    public @Nullable FlatRecord next() {
        try {
            FlatRecord record = walk.next();
            if (record == null && parser.nextToken() != null) {
                throw malformed("Something follows behind the end of the document");
            }
            records++;
            return record == null ? null : checked(record);
        } catch (JacksonException e) {
            throw malformed("This is not JSON: " + Malformed.reason(e));
        }
    }

    /** A value with bytes that are no characters rejects its record. */
    private FlatRecord checked(FlatRecord record) {
        boolean replaced = false;
        for (Map.Entry<String, Object> value : record.values().entrySet()) {
            if (value.getValue() instanceof String held && held.indexOf(DecodedText.REPLACEMENT) >= 0) {
                value.setValue(DecodedText.shown(held));
                replaced = true;
            }
        }
        if (replaced) {
            record.problems().add(text.wrongEncoding(new Place.InFile(file, record.line()), "The record"));
        }
        return record;
    }

    private CannotGoOn malformed(String what) {
        return new CannotGoOn(Problem.at(
                new Place.InFile(file, parser.currentLocation().getLineNr()),
                ProblemCode.FILE_MALFORMED,
                what + ", after " + records + " records.",
                "Correct the file there, or ask the sender for it again."));
    }

    @Override
    public Map<String, String> addresses() {
        return addresses;
    }

    @Override
    public List<Detected> options() {
        return List.of(path, text.encoding());
    }

    @Override
    public void close() {
        try {
            parser.close();
            text.reader().close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

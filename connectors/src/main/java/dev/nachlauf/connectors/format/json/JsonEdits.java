package dev.nachlauf.connectors.format.json;

import dev.nachlauf.connectors.format.encoding.CopiedText;
import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.connectors.format.nested.FlatRecord;
import dev.nachlauf.connectors.format.nested.RecordPath;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.SourceBytes;
import java.io.IOException;
import java.io.OutputStream;
import java.util.HashMap;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonParser;
import tools.jackson.core.ObjectReadContext;

/** Copies a JSON document with edits. Whatever doesn't change is copied as it is spelled, the blanks between included. */
final class JsonEdits {
    /** What stands between records is repeated before new ones, unless it is longer than any layout. */
    private static final int LONGEST_LEAD = 1_000;

    private final CopiedText text;
    private final JsonObjectEdits objects;
    private final RowEdits edits;
    /** The list at hand, and how many of its elements were taken out. */
    private @Nullable String list;

    private long removed;
    private String lead = "";

    private JsonEdits(CopiedText text, JsonObjectEdits objects, RowEdits edits) {
        this.text = text;
        this.objects = objects;
        this.edits = edits;
    }

    static void copy(
            SourceBytes bytes,
            FormatOptions options,
            RecordPath path,
            JsonObjectEdits objects,
            RowEdits edits,
            OutputStream out)
            throws IOException {
        DecodedText decoded = DecodedText.open(bytes, options);
        try (JsonParser parser = Json.FACTORY.createParser(ObjectReadContext.empty(), decoded.reader());
                CopiedText text = CopiedText.open(bytes, decoded.charset(), out)) {
            new JsonEdits(text, objects, edits).copy(bytes.file(), new JsonWalk(parser, path, new HashMap<>()));
        }
    }

    private void copy(String file, JsonWalk walk) throws IOException {
        for (FlatRecord record = walk.next(); record != null; record = walk.next()) {
            JsonWalk.Span span = walk.span();
            begin(span);
            RowEdits.Edit edit = edits.at("", record.line(), record.path());
            if (edit != null && edit.gone()) {
                remove(file, span);
            } else if (edit != null) {
                text.before(span.start());
                put(objects.changed(text.take(span.end()), edit));
            }
        }
        add(file, walk);
        text.rest();
    }

    private void begin(JsonWalk.Span span) throws IOException {
        if (span.list() != null && !span.list().equals(list)) {
            list = span.list();
            removed = 0;
        }
        if (span.index() == 0) {
            text.before(span.before());
            String blanks = text.take(span.start());
            text.put(blanks);
            lead = blanks.length() > LONGEST_LEAD ? "" : blanks;
        }
    }

    /** Takes an element out with the comma that it no longer needs. */
    private void remove(String file, JsonWalk.Span span) throws IOException {
        if (span.list() == null) {
            throw unfit(file + " holds one record, which can't be taken out of it.");
        }
        if (span.index() > removed) {
            text.before(span.before());
            text.take(span.end());
        } else {
            text.before(span.start());
            text.take(span.end());
            text.takeSeparator(',');
        }
        removed++;
    }

    private void add(String file, JsonWalk walk) throws IOException {
        JsonWalk.Span room = walk.onlyList();
        for (@Nullable Object[] cells = edits.next(); cells != null; cells = edits.next()) {
            if (room == null) {
                throw unfit("The records of " + file + " lie in no list or in several, so a new one has no place.");
            }
            text.before(room.before());
            put((room.index() > removed ? "," + lead : "") + objects.added(cells));
            removed = Math.min(removed, room.index() - 1);
        }
    }

    /** Puts JSON in; what the file's encoding doesn't have is spelled by number. */
    private void put(String json) throws IOException {
        if (text.canHold(json)) {
            text.put(json);
            return;
        }
        for (char one : json.toCharArray()) {
            // only texts hold such characters, and there a number means the same
            text.put(text.canHold(String.valueOf(one)) ? String.valueOf(one) : "\\u%04x".formatted((int) one));
        }
    }

    private static CannotGoOn unfit(String sentence) {
        return new CannotGoOn(Problem.of(
                ProblemCode.OUTPUT_UNFIT,
                sentence,
                "Write such a file whole with action: issue, or only change its records with action: update."));
    }
}

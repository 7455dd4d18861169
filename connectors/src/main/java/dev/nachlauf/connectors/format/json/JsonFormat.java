package dev.nachlauf.connectors.format.json;

import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.connectors.format.nested.NestedCells;
import dev.nachlauf.connectors.format.nested.NestedReader;
import dev.nachlauf.connectors.format.nested.RecordPath;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.EditsRows;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;

/** One JSON document whose lists hold the records. */
public final class JsonFormat implements SourceFormat, EditsRows {
    @Override
    public String name() {
        return "json";
    }

    @Override
    public List<Setting> options() {
        return List.of(
                RecordPath.RECORD,
                NestedReader.OTHER_FIELDS,
                Setting.optional(DecodedText.ENCODING, "utf-8 or utf-16; JSON is utf-8"));
    }

    @Override
    public Optional<Detected> recognise(String file, byte[] start) {
        char first = firstMark(start);
        if (first != '{' && first != '[' || JsonLinesFormat.looksLikeLines(start)) {
            return Optional.empty();
        }
        return Optional.of(new Detected("as", name(), 0.95, "it starts with " + first));
    }

    /** The first character that isn't blank; JSON's own are all ASCII. */
    static char firstMark(byte[] start) {
        String text = new String(start, 0, Math.min(start.length, 1_000), StandardCharsets.ISO_8859_1)
                .replace("\u00ef\u00bb\u00bf", "")
                .replace("\u00fe\u00ff", "")
                .replace("\u00ff\u00fe", "")
                .replace("\0", "")
                .strip();
        return text.isEmpty() ? ' ' : text.charAt(0);
    }

    @Override
    public SourceReader read(SourceBytes bytes, FormatOptions options) {
        Detected path = path(bytes, options);
        return NestedReader.open(bytes.file(), () -> JsonDocument.open(bytes, options, path), options);
    }

    private static Detected path(SourceBytes bytes, FormatOptions options) {
        return RecordPath.detected(options, () -> RecordSearch.find(bytes, options));
    }

    @Override
    public Optional<String> whyFixed(SourceField field) {
        return whyFixedInObject(field);
    }

    /** Why a field can't be changed with its record. */
    static Optional<String> whyFixedInObject(SourceField field) {
        if (field.address().isEmpty()) {
            return Optional.of("the records are plain values, not objects");
        }
        return NestedCells.whyFixed(field);
    }

    @Override
    public void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, OutputStream out) throws IOException {
        try (SourceReader fields = read(bytes, options)) {
            JsonObjectEdits objects = new JsonObjectEdits(bytes.file(), fields.fields());
            RecordPath path = JsonDocument.names(path(bytes, options));
            JsonEdits.copy(bytes, options, path, objects, edits, out);
        }
    }
}

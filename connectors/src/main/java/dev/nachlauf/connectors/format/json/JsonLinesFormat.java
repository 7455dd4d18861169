package dev.nachlauf.connectors.format.json;

import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.connectors.format.encoding.EditedLines;
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

/** JSON Lines: a JSON value per line. */
public final class JsonLinesFormat implements SourceFormat, EditsRows {
    static final String NAME = "json-lines";

    @Override
    public String name() {
        return NAME;
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
        return JsonFormat.firstMark(start) == '{' && looksLikeLines(start)
                ? Optional.of(new Detected("as", NAME, 0.97, "each of the first lines is an object of its own"))
                : Optional.empty();
    }

    /** Whether the first lines each open and close an object; a single line is a document. */
    static boolean looksLikeLines(byte[] start) {
        List<String> lines = new String(start, StandardCharsets.ISO_8859_1)
                .replace("\0", "")
                .lines()
                .map(String::strip)
                .filter(line -> !line.isEmpty())
                .limit(3)
                .toList();
        if (lines.size() < 2) {
            return false;
        }
        String second = lines.get(1);
        return lines.getFirst().endsWith("}") && second.startsWith("{");
    }

    @Override
    public SourceReader read(SourceBytes bytes, FormatOptions options) {
        return NestedReader.open(bytes.file(), () -> JsonLines.open(bytes, options), options);
    }

    @Override
    public void requireEditable(String file, FormatOptions options) {
        if (options.text(RecordPath.RECORD.name()).isPresent()) {
            throw EditedLines.unfit(
                    "The records of " + file + " lie inside of its lines, so none can be added or changed.");
        }
    }

    @Override
    public Optional<String> whyFixed(SourceField field) {
        return JsonFormat.whyFixedInObject(field);
    }

    @Override
    public void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, OutputStream out) throws IOException {
        try (SourceReader fields = read(bytes, options)) {
            JsonObjectEdits objects = new JsonObjectEdits(bytes.file(), fields.fields());
            EditedLines.copy(bytes, options, edits, new JsonLineEdits(objects), out);
        }
    }
}

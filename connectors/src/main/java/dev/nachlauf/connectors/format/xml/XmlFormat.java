package dev.nachlauf.connectors.format.xml;

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
import java.util.Locale;
import java.util.Optional;

/** XML whose repeating elements are the records. */
public final class XmlFormat implements SourceFormat, EditsRows {
    private static final int LOOKED_AT = 200;

    @Override
    public String name() {
        return "xml";
    }

    @Override
    public List<Setting> options() {
        return List.of(
                RecordPath.RECORD,
                NestedReader.OTHER_FIELDS,
                Setting.optional(DecodedText.ENCODING, "where the file doesn't say it itself"));
    }

    @Override
    public Optional<Detected> recognise(String file, byte[] start) {
        String text = new String(start, 0, Math.min(LOOKED_AT, start.length), StandardCharsets.ISO_8859_1)
                .replace("\0", "")
                .replace("\u00ef\u00bb\u00bf", "")
                .replace("\u00fe\u00ff", "")
                .replace("\u00ff\u00fe", "")
                .strip();
        if (text.startsWith("<?xml")) {
            return Optional.of(new Detected("as", name(), 1, "it declares itself as XML"));
        }
        boolean markup = text.matches("(?s)<[A-Za-z_!].*");
        boolean ending = file.toLowerCase(Locale.ROOT).endsWith(".xml");
        return markup
                ? Optional.of(new Detected("as", name(), ending ? 0.95 : 0.7, "it starts with an element"))
                : Optional.empty();
    }

    @Override
    public SourceReader read(SourceBytes bytes, FormatOptions options) {
        Detected path = path(bytes, options);
        return NestedReader.open(bytes.file(), repeated -> XmlRecords.open(bytes, options, path, repeated), options);
    }

    private static Detected path(SourceBytes bytes, FormatOptions options) {
        return RecordPath.detected(options, () -> ElementSearch.find(bytes, options));
    }

    @Override
    public Optional<String> whyFixed(SourceField field) {
        return NestedCells.whyFixed(field);
    }

    @Override
    public void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, OutputStream out) throws IOException {
        try (SourceReader fields = read(bytes, options)) {
            ElementEdits elements = new ElementEdits(bytes.file(), fields.fields());
            XmlEdits.copy(bytes, options, path(bytes, options), elements, edits, out);
        }
    }
}

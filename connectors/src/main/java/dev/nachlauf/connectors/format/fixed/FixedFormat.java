package dev.nachlauf.connectors.format.fixed;

import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.connectors.format.encoding.EditedLines;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.EditsRows;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Optional;

/** Fixed-width text: every field stands at the same positions of every line. */
public final class FixedFormat implements SourceFormat, EditsRows {
    static final String COLUMNS = "columns";
    static final String SKIP_LINES = "skip-lines";
    static final String TRAILER = "trailer";

    @Override
    public String name() {
        return "fixed";
    }

    @Override
    public List<Setting> options() {
        return List.of(
                Setting.required(COLUMNS, "the fields and their positions from 1, such as { code: 1-6, name: 7-30 }"),
                Setting.optional(SKIP_LINES, "how many lines at the start hold no rows"),
                Setting.optional(TRAILER, "the word with which a closing line starts"),
                Setting.optional(DecodedText.ENCODING, "utf-8, utf-16, windows-1252, iso-8859-1 and others"));
    }

    /** Where fields start and end can't be told from the text with any certainty. */
    @Override
    public Optional<Detected> recognise(String file, byte[] start) {
        return Optional.empty();
    }

    @Override
    public SourceReader read(SourceBytes bytes, FormatOptions options) {
        List<FixedColumn> columns = FixedColumn.parse(options);
        try {
            return new FixedReader(bytes.file(), DecodedText.open(bytes, options), options, columns);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Override
    public void requireEditable(String file, FormatOptions options) {
        if (options.text(TRAILER).isPresent()) {
            throw EditedLines.closed(file);
        }
    }

    @Override
    public void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, OutputStream out) throws IOException {
        List<FixedColumn> columns = FixedColumn.parse(options);
        EditedLines.copy(bytes, options, edits, new FixedEdits(columns), out);
    }
}

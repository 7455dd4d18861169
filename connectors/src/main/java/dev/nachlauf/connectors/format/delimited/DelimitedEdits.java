package dev.nachlauf.connectors.format.delimited;

import dev.nachlauf.connectors.format.encoding.CopiedLines;
import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.value.Values;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * Copies a delimited text with edits. Rows that don't change are copied byte by byte; the others, and those that are added,
 * are spelled with the text's own delimiter, quotes, encoding and line ends.
 */
final class DelimitedEdits {
    private final CellSpelling spelling;
    private final CopiedLines lines;
    private final Charset charset;
    private final RowEdits edits;

    private DelimitedEdits(Layout layout, CopiedLines lines, Charset charset, RowEdits edits) {
        this.spelling = new CellSpelling(layout);
        this.lines = lines;
        this.charset = charset;
        this.edits = edits;
    }

    static void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, OutputStream out) throws IOException {
        DecodedText text = DecodedText.open(bytes, options);
        try (Tail characters = new Tail(text.reader());
                InputStream raw = new BufferedInputStream(bytes.open())) {
            Layout layout = Layout.of(options, text.start());
            CopiedLines lines = new CopiedLines(raw, out, text.charset());
            try (Records records = Records.ofCharacters(characters, layout)) {
                new DelimitedEdits(layout, lines, text.charset(), edits).copy(records, layout.headerRow() > 0);
            }
        }
    }

    private void copy(Records records, boolean named) throws IOException {
        if (named) {
            records.next();
        }
        for (Records.Fields row = records.next(); row != null; row = records.next()) {
            RowEdits.Edit edit = edits.at("", row.line(), "");
            if (edit != null) {
                lines.before(row.line());
                long last = CellSpelling.lastLine(row);
                if (edit.gone()) {
                    lines.leaveOut(last);
                } else {
                    lines.replace(last, bytes(changed(row.cells(), edit)));
                }
            }
        }
        lines.rest();
        lines.add(
                edits,
                cells -> spelling.row(
                        Arrays.stream(cells).map(DelimitedEdits::text).toList()));
    }

    private static List<String> changed(List<String> cells, RowEdits.Edit edit) {
        List<String> changed = new ArrayList<>(cells);
        for (int column = 0; column < edit.cells().length; column++) {
            if (edit.changed().get(column)) {
                while (changed.size() <= column) {
                    changed.add("");
                }
                changed.set(column, text(edit.cells()[column]));
            }
        }
        return changed;
    }

    private static String text(@Nullable Object value) {
        return Objects.requireNonNullElse(Values.text(value), "");
    }

    private byte[] bytes(List<String> row) {
        return CopiedLines.encoded(spelling.row(row), charset);
    }
}

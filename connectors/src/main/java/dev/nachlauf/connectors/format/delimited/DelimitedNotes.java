package dev.nachlauf.connectors.format.delimited;

import dev.nachlauf.connectors.format.encoding.CopiedLines;
import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.NotesRows.Notes;
import dev.nachlauf.core.system.NotesRows.NotesOfPart;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.text.SpreadsheetText;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.List;

/**
 * Copies a delimited text byte by byte and adds fields where its rows end. Which rows it has, the reader of the same text
 * says; how many lines each of them takes is counted in its fields.
 */
final class DelimitedNotes {
    private final Layout layout;
    private final CellSpelling spelling;
    private final List<String> heads;
    private final CopiedLines lines;
    private final DecodedText text;

    private DelimitedNotes(Layout layout, List<String> heads, CopiedLines lines, DecodedText text) {
        this.layout = layout;
        this.spelling = new CellSpelling(layout);
        this.heads = heads;
        this.lines = lines;
        this.text = text;
    }

    static void copy(SourceBytes bytes, FormatOptions options, List<String> heads, Notes notes, OutputStream out)
            throws IOException {
        DecodedText text = DecodedText.open(bytes, options);
        try (Tail characters = new Tail(text.reader());
                InputStream raw = new BufferedInputStream(bytes.open());
                NotesOfPart found = notes.of("")) {
            Layout layout = Layout.of(options, text.start());
            CopiedLines lines = new CopiedLines(raw, out, text.charset());
            try (Records records = Records.ofCharacters(characters, layout)) {
                new DelimitedNotes(layout, heads, lines, text).copy(records, found);
            }
            lines.rest();
        }
    }

    private void copy(Records records, NotesOfPart notes) throws IOException {
        try {
            Records.Fields row = records.next();
            int width = row == null ? 0 : row.cells().size();
            if (row != null && layout.headerRow() > 0) {
                add(row, width, heads);
                row = records.next();
            }
            for (; row != null; row = records.next()) {
                List<String> noted = notes.at(row.line());
                if (noted != null) {
                    add(row, width, noted);
                }
            }
        } catch (Records.Malformed e) {
            // the run read no further either; what is left is copied as it is
        }
    }

    private void add(Records.Fields row, int width, List<String> noted) throws IOException {
        StringBuilder end = new StringBuilder();
        // short rows are filled up, so that what is added stands in its own columns
        end.repeat(layout.delimiter(), Math.max(0, width - row.cells().size()));
        for (String one : noted) {
            end.append(layout.delimiter()).append(spelling.noted(SpreadsheetText.guarded(one)));
        }
        lines.through(CellSpelling.lastLine(row), CopiedLines.encoded(end.toString(), text.charset()));
    }
}

package dev.nachlauf.connectors.format.delimited;

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
import java.util.regex.Pattern;

/**
 * Copies a delimited text byte by byte and adds fields where its rows end. Which rows it has, the reader of the same text
 * says; how many lines each of them takes is counted in its fields.
 */
final class DelimitedNotes {
    private static final Pattern LINE_BREAK = Pattern.compile("\\r\\n|\\n|\\r");

    private final Layout layout;
    private final List<String> heads;
    private final CopiedLines lines;
    private final DecodedText text;

    private DelimitedNotes(Layout layout, List<String> heads, CopiedLines lines, DecodedText text) {
        this.layout = layout;
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
            end.append(layout.delimiter()).append(field(SpreadsheetText.guarded(one)));
        }
        long last = row.line();
        for (String cell : row.cells()) {
            last += breaks(cell);
        }
        lines.through(last, CopiedLines.encoded(end.toString(), text.charset()));
    }

    private static long breaks(String cell) {
        return cell.indexOf('\n') < 0 && cell.indexOf('\r') < 0
                ? 0
                : LINE_BREAK.matcher(cell).results().count();
    }

    private String field(String note) {
        String quote = String.valueOf(layout.quote());
        if (layout.quote() == Layout.NONE) {
            return note.replace(layout.delimiter(), " ").replaceAll("[\\r\\n]+", " ");
        }
        boolean plain = !note.contains(layout.delimiter())
                && !note.contains(quote)
                && note.indexOf('\n') < 0
                && note.indexOf('\r') < 0
                && (layout.escape() == Layout.NONE || note.indexOf(layout.escape()) < 0);
        if (plain) {
            return note;
        }
        String escape = String.valueOf(layout.escape());
        String inner = layout.escape() == Layout.NONE
                ? note.replace(quote, quote + quote)
                : note.replace(escape, escape + escape).replace(quote, escape + quote);
        return quote + inner + quote;
    }
}

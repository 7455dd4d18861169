package dev.nachlauf.connectors.format.delimited;

import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.connectors.format.encoding.EditedLines;
import dev.nachlauf.connectors.format.heading.Heading;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.EditsRows;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.NotesRows;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Delimited text: fields with a delimiter between them, a row per line, quotes around what holds either. */
public final class DelimitedFormat implements SourceFormat, NotesRows, EditsRows {
    static final String NAME = "delimited";
    static final String DELIMITER = "delimiter";
    static final String QUOTE = "quote";
    static final String ESCAPE = "escape";
    static final String COMMENT = "comment";
    static final String SKIP_LINES = "skip-lines";
    static final String RAGGED = "ragged";
    static final String BLANK_LINES = "blank-lines";
    static final String TRAILER = "trailer";

    private static final int NUL_LIMIT = 8;

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public List<Setting> options() {
        return List.of(
                Setting.optional(DELIMITER, "what stands between fields: tab, or one to eight characters"),
                Setting.optional(QUOTE, "the character around fields that hold a delimiter; none where there is none"),
                Setting.optional(ESCAPE, "the character that takes the meaning of the next one"),
                Setting.optional(COMMENT, "the character that starts a line to be left out"),
                Setting.optional(DecodedText.ENCODING, "utf-8, utf-16, windows-1252, iso-8859-1 and others"),
                Setting.optional(SKIP_LINES, "how many lines at the start are none of the table"),
                Setting.optional(Heading.HEADER_ROW, "the line with the names, from 1; 0 where there is none"),
                Setting.optional(RAGGED, "reject rows of another length (the default), or pad short ones"),
                Setting.optional(
                        BLANK_LINES, "leave out lines of nothing but delimiters (the default), or keep them as rows"),
                Setting.optional(TRAILER, "the word in the first field of a closing line"));
    }

    /** Nothing marks such a text, so any other format that recognises itself comes before. */
    @Override
    public Optional<Detected> recognise(String file, byte[] start) {
        int zeros = 0;
        for (byte one : start) {
            zeros += one == 0 ? 1 : 0;
        }
        boolean wide = zeros > start.length / 4;
        if (zeros > NUL_LIMIT && !wide) {
            return Optional.empty();
        }
        String name = file.toLowerCase(Locale.ROOT);
        boolean ending = name.endsWith(".csv") || name.endsWith(".tsv");
        return Optional.of(
                ending
                        ? new Detected("as", NAME, 0.8, "the name's ending")
                        : new Detected("as", NAME, 0.4, "it is text, and nothing marks another format"));
    }

    @Override
    public SourceReader read(SourceBytes bytes, FormatOptions options) {
        return DelimitedReader.open(bytes, options);
    }

    @Override
    public void copy(SourceBytes bytes, FormatOptions options, List<String> heads, Notes notes, OutputStream out)
            throws IOException {
        DelimitedNotes.copy(bytes, options, heads, notes, out);
    }

    @Override
    public void requireEditable(String file, FormatOptions options) {
        if (options.text(TRAILER).isPresent()) {
            throw EditedLines.closed(file);
        }
    }

    @Override
    public void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, OutputStream out) throws IOException {
        DelimitedEdits.copy(bytes, options, edits, out);
    }
}

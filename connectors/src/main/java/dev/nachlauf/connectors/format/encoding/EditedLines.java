package dev.nachlauf.connectors.format.encoding;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.RowEdits;
import dev.nachlauf.core.system.SourceBytes;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;

/** Copies a text of which each row is one line, with edits; lines that don't change are copied byte by byte. */
public final class EditedLines {
    private EditedLines() {}

    /** How rows become lines. */
    public interface Rows extends CopiedLines.Spelling {
        /** A line with its edit. */
        String changed(String line, RowEdits.Edit edit);
    }

    /**
     * Copies a text.
     *
     * @param options say its encoding
     */
    public static void copy(SourceBytes bytes, FormatOptions options, RowEdits edits, Rows rows, OutputStream out)
            throws IOException {
        DecodedText text = DecodedText.open(bytes, options);
        try (BoundedLines read = new BoundedLines(bytes.file(), text.reader());
                InputStream raw = new BufferedInputStream(bytes.open())) {
            CopiedLines copied = new CopiedLines(raw, out, text.charset());
            for (String line = read.next(); line != null; line = read.next()) {
                long number = read.number();
                RowEdits.Edit edit = line.isBlank() ? null : edits.at("", number, "");
                if (edit != null) {
                    copied.before(number);
                    if (edit.gone()) {
                        copied.leaveOut(number);
                    } else {
                        copied.replace(number, CopiedLines.encoded(rows.changed(line, edit), text.charset()));
                    }
                }
            }
            copied.rest();
            copied.add(edits, rows);
        }
    }

    /** What is said of a text whose last line speaks of all its rows. */
    public static CannotGoOn closed(String file) {
        return unfit(file + " ends with a line of figures, which would be wrong with other rows.");
    }

    /** What is said of a text that can't take rows. */
    public static CannotGoOn unfit(String sentence) {
        return new CannotGoOn(
                Problem.of(ProblemCode.OUTPUT_UNFIT, sentence, "Issue the whole file anew with action: issue."));
    }
}

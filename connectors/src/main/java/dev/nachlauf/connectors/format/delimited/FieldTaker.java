package dev.nachlauf.connectors.format.delimited;

import de.siegmar.fastcsv.reader.AbstractBaseCsvCallbackHandler;
import dev.nachlauf.connectors.format.delimited.Records.Fields;
import dev.nachlauf.connectors.format.delimited.Records.Marks;
import dev.nachlauf.connectors.format.encoding.DecodedText;
import java.util.Arrays;
import java.util.BitSet;
import org.jspecify.annotations.Nullable;

/** Takes the fields of a row as the library finds them among the characters. Only those that are needed become text. */
final class FieldTaker extends AbstractBaseCsvCallbackHandler<Fields> {
    /** Rows with more fields are refused; what is beyond is counted only. */
    private static final int MOST = DelimitedReader.MOST_FIELDS + 1;

    private final int skipped;
    private @Nullable BitSet needed;
    private String[] cells = new String[16];
    private int count;
    private boolean blank;
    private boolean broken;
    private boolean lines;
    private boolean endsInLines;

    /** @param skipped how many lines stand before the rows */
    FieldTaker(int skipped) {
        this.skipped = skipped;
    }

    void needOnly(BitSet fields) {
        needed = fields;
    }

    @Override
    protected void handleBegin(long startingLineNumber) {
        count = 0;
        blank = true;
        broken = false;
        lines = false;
        endsInLines = false;
    }

    @Override
    protected void handleField(int index, char[] buffer, int offset, int length, boolean quoted) {
        look(buffer, offset, length);
        if (count == MOST) {
            return;
        }
        if (count == cells.length) {
            cells = Arrays.copyOf(cells, count * 2);
        }
        boolean taken = length > 0 && (needed == null || needed.get(count));
        cells[count++] = taken ? new String(buffer, offset, length) : "";
    }

    private void look(char[] buffer, int offset, int length) {
        boolean breaks = false;
        for (int i = offset; i < offset + length; i++) {
            char character = buffer[i];
            if (character > ' ' && character < DecodedText.REPLACEMENT) {
                // almost every one; a space beyond ASCII is looked at below
                blank &= character > '~' && Character.isWhitespace(character);
            } else {
                breaks |= character == '\n' || character == '\r';
                broken |= character == DecodedText.REPLACEMENT;
                blank &= Character.isWhitespace(character);
            }
        }
        lines |= breaks;
        endsInLines = breaks;
    }

    @Override
    protected Fields buildRecord() {
        return new Fields(
                getStartingLineNumber() + skipped,
                Arrays.asList(Arrays.copyOf(cells, count)),
                new Marks(blank, broken, lines, endsInLines));
    }
}

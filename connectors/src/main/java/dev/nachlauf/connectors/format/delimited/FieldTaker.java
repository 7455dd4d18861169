package dev.nachlauf.connectors.format.delimited;

import de.siegmar.fastcsv.reader.AbstractBaseCsvCallbackHandler;
import dev.nachlauf.connectors.format.delimited.Records.Fields;
import dev.nachlauf.connectors.format.delimited.Records.Marks;
import dev.nachlauf.connectors.format.encoding.DecodedText;
import java.util.Arrays;
import java.util.BitSet;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;

/** Takes the fields of a row as the library finds them among the characters. Only those that are needed become text. */
final class FieldTaker extends AbstractBaseCsvCallbackHandler<Fields> {
    /** Rows with more fields are refused; what is beyond is counted only. */
    private static final int MOST = DelimitedReader.MOST_FIELDS + 1;

    private final int skipped;
    private final BooleanSupplier someBroken;
    private @Nullable BitSet needed;
    private String[] cells = new String[16];
    private int count;
    private boolean blank;
    private boolean broken;
    private boolean lines;
    private boolean endsInLines;

    /**
     * Takes fields.
     *
     * @param skipped how many lines stand before the rows
     * @param someBroken whether some character of the text so far could not be decoded
     */
    FieldTaker(int skipped, BooleanSupplier someBroken) {
        this.skipped = skipped;
        this.someBroken = someBroken;
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
        look(buffer, offset, length, quoted);
        if (count == MOST) {
            return;
        }
        if (count == cells.length) {
            cells = Arrays.copyOf(cells, count * 2);
        }
        boolean taken = length > 0 && (needed == null || needed.get(count));
        cells[count++] = taken ? new String(buffer, offset, length) : "";
    }

    /** Line breaks stand between quotes only, and almost no text has characters that could not be decoded. */
    private void look(char[] buffer, int offset, int length, boolean quoted) {
        int end = offset + length;
        for (int i = offset; blank && i < end; i++) {
            blank = Character.isWhitespace(buffer[i]);
        }
        boolean breaks = false;
        for (int i = offset; quoted && i < end; i++) {
            breaks |= buffer[i] == '\n' || buffer[i] == '\r';
        }
        for (int i = offset; someBroken.getAsBoolean() && i < end; i++) {
            broken |= buffer[i] == DecodedText.REPLACEMENT;
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

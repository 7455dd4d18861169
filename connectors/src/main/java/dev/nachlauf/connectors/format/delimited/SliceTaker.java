package dev.nachlauf.connectors.format.delimited;

import dev.nachlauf.connectors.format.delimited.Records.Fields;
import dev.nachlauf.connectors.format.delimited.Records.Marks;
import dev.nachlauf.connectors.format.encoding.DecodedText;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.BitSet;
import org.jspecify.annotations.Nullable;

/** Takes the fields of a row as they are found among its bytes. Only those that are needed become text. */
final class SliceTaker {
    private static final char UNKNOWN = '\uFFFD';

    private final Charset charset;
    private @Nullable BitSet needed;
    private String[] cells = new String[16];
    private int count;
    private boolean blank;
    private boolean broken;
    private boolean lines;
    private boolean endsInLines;

    SliceTaker(Charset charset) {
        this.charset = charset;
    }

    void needOnly(BitSet fields) {
        needed = fields;
    }

    /** Another row begins. */
    void begin() {
        count = 0;
        blank = true;
        broken = false;
        lines = false;
    }

    /** The row, which begins in this line. */
    Fields fields(long line) {
        return new Fields(
                line, Arrays.asList(Arrays.copyOf(cells, count)), new Marks(blank, broken, lines, endsInLines));
    }

    /**
     * Takes a field; what is beyond the most a row may have is only counted once.
     *
     * @param beyondAscii whether some byte is none of ASCII
     * @param breaks whether a line ends in it
     */
    void take(byte[] of, int from, int length, boolean beyondAscii, boolean breaks) {
        if (length > Records.LONGEST_FIELD) {
            throw new Records.Malformed("a field of more than " + Records.LONGEST_FIELD + " bytes");
        }
        lines |= breaks;
        endsInLines = breaks;
        boolean taken = length > 0 && (needed == null || needed.get(count));
        String cell = beyondAscii
                ? decoded(of, from, length)
                : taken ? new String(of, from, length, StandardCharsets.ISO_8859_1) : "";
        blank &= beyondAscii ? cell.isBlank() : blank && isBlank(of, from, length);
        if (count <= DelimitedReader.MOST_FIELDS) {
            if (count == cells.length) {
                cells = Arrays.copyOf(cells, count * 2);
            }
            cells[count++] = taken ? cell : "";
        }
    }

    private static boolean isBlank(byte[] of, int from, int length) {
        for (int i = from; i < from + length; i++) {
            if (!Character.isWhitespace(of[i])) {
                return false;
            }
        }
        return true;
    }

    /** Bytes that are no characters are told from the character that stands for such ones elsewhere. */
    private String decoded(byte[] of, int from, int length) {
        String cell = new String(of, from, length, charset);
        if (cell.indexOf(UNKNOWN) < 0) {
            return cell;
        }
        try {
            cell = DecodedText.decoder(charset)
                    .decode(ByteBuffer.wrap(of, from, length))
                    .toString();
        } catch (CharacterCodingException e) {
            throw new UncheckedIOException(e);
        }
        broken |= cell.indexOf(DecodedText.REPLACEMENT) >= 0;
        return cell;
    }
}

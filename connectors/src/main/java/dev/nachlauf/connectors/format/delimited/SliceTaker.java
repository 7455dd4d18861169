package dev.nachlauf.connectors.format.delimited;

import dev.nachlauf.connectors.format.delimited.Records.Fields;
import dev.nachlauf.connectors.format.delimited.Records.Marks;
import dev.nachlauf.connectors.format.encoding.DecodedText;
import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.RowText;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.BitSet;
import org.jspecify.annotations.Nullable;

/**
 * Takes the fields of a row as they are found among its bytes. A field that is spelled as in UTF-8 stays where it stands; of
 * any other a copy is made.
 */
final class SliceTaker {
    private static final char UNKNOWN = '\uFFFD';

    private final Charset charset;
    private @Nullable BitSet needed;
    /** Where each field begins and ends: from the beginning of the row on; below zero, among the copies. */
    private int[] bounds = new int[32];

    private final ByteSink copies = new ByteSink(64);
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
        copies.clear();
        blank = true;
        broken = false;
        lines = false;
    }

    /**
     * The row.
     *
     * @param line in which it begins
     * @param size how many bytes it has from {@code start} on
     */
    Fields fields(long line, byte[] of, int start, int size) {
        byte[] data = Arrays.copyOfRange(of, start, start + size + copies.size());
        if (copies.size() > 0) {
            System.arraycopy(copies.array(), 0, data, size, copies.size());
        }
        int[] found = Arrays.copyOf(bounds, count * 2);
        for (int i = 0; copies.size() > 0 && i < found.length; i++) {
            found[i] = found[i] < 0 ? size + ~found[i] : found[i];
        }
        return new Fields(line, new RowText(data, found), new Marks(blank, broken, lines, endsInLines));
    }

    /**
     * Takes a field; what is beyond the most a row may have is only counted once.
     *
     * @param start where the row begins
     * @param from where the field does, from there on
     * @param beyondAscii whether some byte is none of ASCII
     * @param breaks whether a line ends in it
     */
    void take(byte[] of, int start, int from, int length, boolean beyondAscii, boolean breaks) {
        note(length, breaks);
        if (beyondAscii) {
            decode(of, start, from, length);
        } else {
            blank = blank && isBlank(of, start + from, length);
            add(from, length);
        }
    }

    /** Takes a field that doesn't stand in the row as it is. */
    void take(byte[] field, boolean beyondAscii, boolean breaks) {
        note(field.length, breaks);
        String text = beyondAscii ? decoded(field, 0, field.length) : new String(field, StandardCharsets.US_ASCII);
        blank &= text.isBlank();
        copy(text);
    }

    private void note(int length, boolean breaks) {
        if (length > Records.LONGEST_FIELD) {
            throw new Records.Malformed("a field of more than " + Records.LONGEST_FIELD + " bytes");
        }
        lines |= breaks;
        endsInLines = breaks;
    }

    private void decode(byte[] of, int start, int from, int length) {
        boolean before = broken;
        broken = false;
        String text = decoded(of, start + from, length);
        blank &= text.isBlank();
        if (broken || charset != StandardCharsets.UTF_8) {
            copy(text);
        } else {
            add(from, length);
        }
        broken |= before;
    }

    private void copy(String text) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        int at = copies.size();
        copies.bytes(bytes);
        bound(~at, ~(at + bytes.length));
    }

    private void add(int from, int length) {
        bound(from, from + length);
    }

    private void bound(int from, int to) {
        if (count > DelimitedReader.MOST_FIELDS) {
            return;
        }
        if (count * 2 == bounds.length) {
            bounds = Arrays.copyOf(bounds, count * 4);
        }
        bounds[count * 2] = from;
        bounds[count * 2 + 1] = needed == null || needed.get(count) ? to : from;
        count++;
    }

    private static boolean isBlank(byte[] of, int from, int length) {
        for (int i = from; i < from + length; i++) {
            if (of[i] > ' ' || !Character.isWhitespace(of[i])) {
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

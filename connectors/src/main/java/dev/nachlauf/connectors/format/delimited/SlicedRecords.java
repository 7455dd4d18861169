package dev.nachlauf.connectors.format.delimited;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.Charset;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Takes the rows of a delimited text (RFC 4180) apart by its bytes, for encodings that spell ASCII as it is: most fields
 * are nothing but ASCII, and become text without being decoded; those that nobody needs don't become text at all. It
 * does what the library does with the same text.
 */
final class SlicedRecords extends Records {
    private static final Set<String> SPELL_ASCII =
            Set.of("UTF-8", "US-ASCII", "ISO-8859-1", "ISO-8859-15", "windows-1252", "windows-1250");
    private static final int BUFFER = 1 << 16;
    /** Bounds what a row can cost, in bytes. */
    private static final int MOST = 1 << 25;
    /** Equals no byte. */
    private static final int NO_BYTE = 0x100;

    private final InputStream text;
    private final SliceTaker taker;
    private final int delimiter;
    private final int quote;
    private final int comment;
    private byte[] bytes = new byte[BUFFER];
    /** Where the row begins, where it is looked at, and where the known bytes end. */
    private int start;

    private int at;
    /** Where the field begins, from the beginning of the row. */
    private int field;

    private int end;
    private boolean ended;
    private long line = 1;
    private boolean openQuote;

    /** @param text behind its byte order mark */
    SlicedRecords(InputStream text, Charset charset, Layout layout) {
        this.text = text;
        this.taker = new SliceTaker(charset);
        this.delimiter = layout.delimiter().charAt(0);
        this.quote = layout.quote() == Layout.NONE ? NO_BYTE : layout.quote();
        this.comment = layout.comment() == Layout.NONE ? NO_BYTE : layout.comment();
        for (int skipped = 0; skipped < before(layout) && has(); skipped++) {
            passLine();
        }
    }

    static boolean canRead(Charset charset, Layout layout) {
        return SPELL_ASCII.contains(charset.name())
                && layout.escape() == Layout.NONE
                && layout.delimiter().length() == 1
                && isAscii(layout.delimiter().charAt(0))
                && isAscii(layout.quote())
                && isAscii(layout.comment());
    }

    private static boolean isAscii(char c) {
        return c < 0x80;
    }

    @Override
    void needOnly(BitSet fields) {
        taker.needOnly(fields);
    }

    @Override
    boolean knowsItsEnd() {
        return true;
    }

    @Override
    boolean endsInQuotes() {
        return openQuote;
    }

    /** Whether a byte stands where the row is looked at; more of the text is read where it has to be. */
    private boolean has() {
        return at < end || more();
    }

    private boolean more() {
        if (ended) {
            return false;
        }
        if (at - start - field > LONGEST_FIELD) {
            throw new Malformed("a field of more than " + LONGEST_FIELD + " bytes");
        }
        if (start > 0) {
            System.arraycopy(bytes, start, bytes, 0, end - start);
            at -= start;
            end -= start;
            start = 0;
        } else if (end == bytes.length) {
            if (end >= MOST) {
                throw new Malformed("a row of more than " + MOST + " bytes");
            }
            bytes = Arrays.copyOf(bytes, Math.min(MOST, end * 2));
        }
        try {
            int read = text.read(bytes, end, bytes.length - end);
            ended = read < 0;
            end += Math.max(0, read);
            return !ended;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Passes over what is left of a line, and its end. */
    private void passLine() {
        while (has() && !isBreak(bytes[at])) {
            at++;
            start = at;
        }
        passBreak();
        start = at;
    }

    private static boolean isBreak(byte one) {
        return one == '\n' || one == '\r';
    }

    private void passBreak() {
        if (!has()) {
            return;
        }
        boolean carriage = bytes[at++] == '\r';
        line++;
        if (carriage && has() && bytes[at] == '\n') {
            at++;
        }
    }

    @Override
    @Nullable
    Fields next() {
        start = at;
        while (has()) {
            if (isBreak(bytes[at])) {
                passBreak();
            } else if (bytes[at] == comment) {
                passLine();
            } else {
                return row();
            }
            start = at;
        }
        return null;
    }

    private Fields row() {
        long first = line;
        field = 0;
        taker.begin();
        boolean goesOn = true;
        while (goesOn) {
            if (has() && bytes[at] == quote) {
                quoted();
            } else {
                plain();
            }
            goesOn = has() && bytes[at] == delimiter;
            at += goesOn ? 1 : 0;
        }
        int size = at - start;
        // taken before its end is passed, for which other bytes may take their place
        Fields row = taker.fields(first, bytes, start, size);
        passBreak();
        return row;
    }

    /** A field without quotes around it; those in it are characters like others. */
    private void plain() {
        field = at - start;
        int found = 0;
        do {
            byte[] here = bytes;
            int i = at;
            while (i < end && here[i] != delimiter && here[i] != '\n' && here[i] != '\r') {
                found |= here[i++];
            }
            at = i;
        } while (at == end && more());
        taker.take(bytes, start, field, at - start - field, found < 0, false);
    }

    /** A field in quotes; a quote in it is doubled. */
    private void quoted() {
        at++;
        field = at - start;
        int found = 0;
        boolean doubled = false;
        boolean breaks = false;
        boolean open = true;
        while (open && has()) {
            byte one = bytes[at];
            if (one == quote) {
                at++;
                open = has() && bytes[at] == quote;
                doubled |= open;
                at += open ? 1 : 0;
            } else if (isBreak(one)) {
                breaks = true;
                passBreak();
            } else {
                found |= one;
                at++;
            }
        }
        openQuote = open;
        int length = at - start - field - (open ? 0 : 1);
        if (doubled) {
            taker.take(withoutDoubled(start + field, length), found < 0, breaks);
        } else {
            taker.take(bytes, start, field, length, found < 0, breaks);
        }
        if (!open && has() && bytes[at] != delimiter && !isBreak(bytes[at])) {
            throw new Malformed("a character behind the quote that ends a field");
        }
    }

    private byte[] withoutDoubled(int from, int length) {
        byte[] single = new byte[length];
        int size = 0;
        for (int i = from; i < from + length; i++) {
            single[size++] = bytes[i];
            i += bytes[i] == quote ? 1 : 0;
        }
        return Arrays.copyOf(single, size);
    }

    @Override
    public void close() {
        try {
            text.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

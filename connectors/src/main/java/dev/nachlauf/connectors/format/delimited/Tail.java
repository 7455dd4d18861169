package dev.nachlauf.connectors.format.delimited;

import dev.nachlauf.connectors.format.encoding.DecodedText;
import java.io.FilterReader;
import java.io.IOException;
import java.io.Reader;

/** Passes a text on and remembers its last characters, for a look at how it ended. */
final class Tail extends FilterReader {
    private static final int KEPT = 1 << 16;

    private final char[] ring = new char[KEPT];
    private long count;
    private boolean broken;

    Tail(Reader text) {
        super(text);
    }

    @Override
    public int read() throws IOException {
        int one = super.read();
        if (one >= 0) {
            broken |= one == DecodedText.REPLACEMENT;
            ring[(int) (count++ % KEPT)] = (char) one;
        }
        return one;
    }

    @Override
    public int read(char[] into, int from, int length) throws IOException {
        int read = super.read(into, from, length);
        int found = 0;
        for (int i = from; i < from + read; i++) {
            // a loop without a way out, so that many characters are looked at in one go
            found |= into[i] == DecodedText.REPLACEMENT ? 1 : 0;
        }
        broken |= found != 0;
        int kept = Math.min(read, KEPT);
        int at = from + read - kept;
        count += Math.max(0, read - kept);
        while (kept > 0) {
            int place = (int) (count % KEPT);
            int part = Math.min(kept, KEPT - place);
            System.arraycopy(into, at, ring, place, part);
            at += part;
            count += part;
            kept -= part;
        }
        return read;
    }

    /** Whether some character so far could not be decoded. */
    boolean isBroken() {
        return broken;
    }

    /** The last characters, and whether they are all. */
    record End(String text, boolean whole) {}

    End end() {
        int kept = (int) Math.min(count, KEPT);
        StringBuilder text = new StringBuilder(kept);
        for (long at = count - kept; at < count; at++) {
            text.append(ring[(int) (at % KEPT)]);
        }
        return new End(text.toString(), count <= KEPT);
    }
}

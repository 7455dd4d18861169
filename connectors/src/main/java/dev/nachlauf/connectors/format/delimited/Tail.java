package dev.nachlauf.connectors.format.delimited;

import java.io.FilterReader;
import java.io.IOException;
import java.io.Reader;

/** Passes a text on and remembers its last characters, for a look at how it ended. */
final class Tail extends FilterReader {
    private static final int KEPT = 1 << 16;

    private final char[] ring = new char[KEPT];
    private long count;

    Tail(Reader text) {
        super(text);
    }

    @Override
    public int read() throws IOException {
        int one = super.read();
        if (one >= 0) {
            ring[(int) (count++ % KEPT)] = (char) one;
        }
        return one;
    }

    @Override
    public int read(char[] into, int from, int length) throws IOException {
        int read = super.read(into, from, length);
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

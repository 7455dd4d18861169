package dev.nachlauf.core.record;

import java.nio.charset.StandardCharsets;

/** A text that is only passed on, and so need not be made of its bytes. */
public final class TextCell {
    private final byte[] data;
    private final int from;
    private final int to;

    TextCell(byte[] data, int from, int to) {
        this.data = data;
        this.from = from;
        this.to = to;
    }

    /** How many bytes it has in UTF-8; no fewer than it has characters. */
    public int bytes() {
        return to - from;
    }

    /** Whether the character NUL is in it. */
    public boolean hasNul() {
        for (int i = from; i < to; i++) {
            if (data[i] == 0) {
                return true;
            }
        }
        return false;
    }

    void write(ByteSink out) {
        out.int4(to - from);
        out.range(data, from, to);
    }

    @Override
    public String toString() {
        return new String(data, from, to - from, StandardCharsets.UTF_8);
    }
}

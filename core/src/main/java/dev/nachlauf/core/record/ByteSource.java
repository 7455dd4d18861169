package dev.nachlauf.core.record;

import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/** Reads what a {@link ByteSink} wrote, and refuses to read beyond its end: a damaged length must not cost memory. */
public final class ByteSource {
    private static final int BITS = 7;
    private static final int MORE = 0x80;
    private static final int LOW = 0x7F;

    private final byte[] bytes;
    private final int end;
    private int at;

    /** Reads from one place up to another. */
    public ByteSource(byte[] bytes, int from, int to) {
        this.bytes = bytes;
        this.at = from;
        this.end = to;
    }

    private int take(int length) {
        if (length < 0 || length > end - at) {
            throw new IllegalArgumentException("a block is damaged: it holds fewer bytes than it states");
        }
        int from = at;
        at += length;
        return from;
    }

    /** The next byte. */
    public byte byte1() {
        return bytes[take(1)];
    }

    /** The next four bytes. */
    public int int4() {
        return CellCodec.length(bytes, take(Integer.BYTES));
    }

    /** The next number that was added as mostly small. */
    public long varint() {
        long value = 0;
        int shift = 0;
        byte next = byte1();
        while ((next & MORE) != 0 && shift < Long.SIZE) {
            value |= (long) (next & LOW) << shift;
            shift += BITS;
            next = byte1();
        }
        value |= (long) (next & LOW) << shift;
        return value >>> 1 ^ -(value & 1);
    }

    /** The next number, of things that follow and need a byte each at least. */
    public int count() {
        long count = varint();
        if (count < 0 || count > end - at) {
            throw new IllegalArgumentException("a block is damaged: it holds fewer things than it states");
        }
        return (int) count;
    }

    /** The next text. */
    public String text() {
        int length = int4();
        return new String(bytes, take(length), length, StandardCharsets.UTF_8);
    }

    /** The next cell. */
    public @Nullable Object cell(CellCodec codec) {
        int cell = at;
        int length = int4();
        take(Math.max(0, length));
        return codec.read(bytes, cell);
    }

    /** A part that was added with its length before it, to be read by itself. */
    public ByteSource part() {
        int length = count();
        int from = take(length);
        return new ByteSource(bytes, from, from + length);
    }
}

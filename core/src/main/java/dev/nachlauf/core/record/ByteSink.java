package dev.nachlauf.core.record;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Bytes that grow, big-endian. The library's stream takes a lock for every byte; every value of every row passes here.
 */
public final class ByteSink {
    private byte[] buffer;
    private int size;

    /** A sink with room for so many bytes to begin with. */
    public ByteSink(int expected) {
        buffer = new byte[expected];
    }

    /** The bytes so far. */
    public int size() {
        return size;
    }

    /** A copy of the bytes. */
    public byte[] toArray() {
        return Arrays.copyOf(buffer, size);
    }

    /** The bytes themselves, {@link #size} of them; they are the sink's, and good until it grows. */
    public byte[] array() {
        return buffer;
    }

    /** Forgets all bytes. */
    public void clear() {
        size = 0;
    }

    /** Adds one byte. */
    public void byte1(byte value) {
        room(1);
        buffer[size++] = value;
    }

    /** Adds two bytes. */
    public void int2(int value) {
        room(2);
        buffer[size++] = (byte) (value >> 8);
        buffer[size++] = (byte) value;
    }

    /** Adds four bytes. */
    public void int4(int value) {
        room(Integer.BYTES);
        buffer[size++] = (byte) (value >> 24);
        buffer[size++] = (byte) (value >> 16);
        buffer[size++] = (byte) (value >> 8);
        buffer[size++] = (byte) value;
    }

    /** Adds eight bytes. */
    public void int8(long value) {
        int4((int) (value >> 32));
        int4((int) value);
    }

    /** Puts four bytes where some stand already. */
    void int4At(int at, int value) {
        buffer[at] = (byte) (value >> 24);
        buffer[at + 1] = (byte) (value >> 16);
        buffer[at + 2] = (byte) (value >> 8);
        buffer[at + 3] = (byte) value;
    }

    /** Adds a text in UTF-8, its length in four bytes before it. */
    public void text(String text) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        int4(bytes.length);
        bytes(bytes);
    }

    /** Adds all of these bytes. */
    public void bytes(byte[] bytes) {
        range(bytes, 0, bytes.length);
    }

    /** Adds the bytes from one place up to another. */
    public void range(byte[] bytes, int from, int to) {
        room(to - from);
        System.arraycopy(bytes, from, buffer, size, to - from);
        size += to - from;
    }

    /** Adds a number that is mostly small, in as few bytes as it needs: seven bits each, the lowest first. */
    public void varint(long value) {
        long rest = value << 1 ^ value >> Long.SIZE - 1;
        while ((rest & ~0x7FL) != 0) {
            byte1((byte) (rest | 0x80));
            rest >>>= 7;
        }
        byte1((byte) rest);
    }

    private void room(int needed) {
        if (size + needed > buffer.length) {
            buffer = Arrays.copyOf(buffer, Math.max(buffer.length * 2, size + needed));
        }
    }
}

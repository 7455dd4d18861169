package dev.nachlauf.core.record;

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

    /** Adds one byte. */
    public void byte1(byte value) {
        room(1);
        buffer[size++] = value;
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

    void bytes(byte[] bytes) {
        room(bytes.length);
        System.arraycopy(bytes, 0, buffer, size, bytes.length);
        size += bytes.length;
    }

    private void room(int needed) {
        if (size + needed > buffer.length) {
            buffer = Arrays.copyOf(buffer, Math.max(buffer.length * 2, size + needed));
        }
    }
}

package dev.nachlauf.core.record;

/** Hashes of bytes in tables that hold as many places as a power of two. */
public final class ByteHash {
    private static final int START = 1;

    private ByteHash() {}

    /** The hash of a range. */
    public static int of(byte[] bytes, int from, int to) {
        return spread(more(START, bytes, from, to));
    }

    /** What a hash of several ranges begins with. */
    public static int start() {
        return START;
    }

    /** The same with one range more; to be {@link #spread} at the end. */
    public static int more(int before, byte[] bytes, int from, int to) {
        int hash = before;
        for (int i = from; i < to; i++) {
            hash = 31 * hash + bytes[i];
        }
        return hash;
    }

    /** Brings differences into the low bits. */
    public static int spread(int hash) {
        int spread = (hash ^ hash >>> 15) * 0x2c1b3c6d;
        return spread ^ spread >>> 13;
    }
}

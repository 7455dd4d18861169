package dev.nachlauf.core.record;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/**
 * Hashes of bytes. Those of {@link #bits} differ in every bit, so they tell keys apart; the shorter ones are also kept in the
 * database, and stay what they are.
 */
public final class ByteHash {
    private static final int START = 1;
    private static final long SEED = 0x9E3779B97F4A7C15L;
    private static final long MIX = 0xD6E8FEB86659FD93L;
    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

    private ByteHash() {}

    /** 64 bits of a range, of which any few tell as much as any others. */
    public static long bits(byte[] bytes, int from, int to) {
        long hash = SEED ^ (long) (to - from) * MIX;
        int at = from;
        for (; at + Long.BYTES <= to; at += Long.BYTES) {
            hash = mixed(hash ^ (long) LONGS.get(bytes, at));
        }
        long rest = 0;
        for (; at < to; at++) {
            rest = rest << Byte.SIZE | bytes[at] & 0xFF;
        }
        return mixed(hash ^ rest);
    }

    private static long mixed(long hash) {
        long mixed = (hash ^ hash >>> 32) * MIX;
        mixed = (mixed ^ mixed >>> 32) * MIX;
        return mixed ^ mixed >>> 32;
    }

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

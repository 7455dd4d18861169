package dev.nachlauf.core.spool;

import java.util.HashSet;
import java.util.Set;

/**
 * Keys that were met, by 64 bits of each, in memory that doesn't grow beyond a bound. It never overlooks a key that was
 * met before; that two keys share their bits without being equal is rare, so those it suspects are to be compared.
 */
public final class KeySet {
    private static final int LEAST = 1 << 10;
    private static final int MOST_SUSPECTS = 100_000;
    private static final long SEED = 0x9E3779B97F4A7C15L;
    private static final long STEP = 0x100000001B3L;
    private static final long MIX = 0xD6E8FEB86659FD93L;

    private final int largest;
    private final Set<Long> suspects = new HashSet<>();
    private long[] table = new long[LEAST];
    private int used;
    private boolean full;

    /** @param bytes how much memory the keys may take */
    public KeySet(long bytes) {
        long slots = Math.clamp(bytes / Long.BYTES, LEAST, 1 << 28);
        this.largest = Integer.highestOneBit((int) slots);
    }

    /** Adds a key. Once the set is full, nothing more is taken. */
    public void add(byte[] key) {
        if (full) {
            return;
        }
        long hash = hash(key);
        int place = place(hash);
        if (table[place] == hash) {
            suspects.add(hash);
            full = suspects.size() > MOST_SUSPECTS;
            return;
        }
        table[place] = hash;
        used++;
        if (used > table.length - (table.length >> 2)) {
            grow();
        }
    }

    private void grow() {
        if (table.length >= largest) {
            full = true;
            table = new long[0];
            return;
        }
        long[] before = table;
        table = new long[before.length * 2];
        for (long hash : before) {
            if (hash != 0) {
                table[place(hash)] = hash;
            }
        }
    }

    private int place(long hash) {
        int mask = table.length - 1;
        int place = (int) hash & mask;
        while (table[place] != 0 && table[place] != hash) {
            place = place + 1 & mask;
        }
        return place;
    }

    /** Whether there were more keys than the set can hold; then it knows nothing. */
    public boolean isFull() {
        return full;
    }

    /** Whether some keys are perhaps the same. */
    public boolean hasSuspects() {
        return !suspects.isEmpty();
    }

    /** Whether the key is perhaps one of several. */
    public boolean isSuspect(byte[] key) {
        return full || suspects.contains(hash(key));
    }

    /** Never 0, which stands for nothing. */
    private static long hash(byte[] key) {
        long hash = SEED ^ key.length;
        for (byte one : key) {
            hash = (hash ^ one & 0xFF) * STEP;
            hash ^= hash >>> 29;
        }
        hash ^= hash >>> 32;
        hash *= MIX;
        hash ^= hash >>> 32;
        return hash == 0 ? 1 : hash;
    }
}

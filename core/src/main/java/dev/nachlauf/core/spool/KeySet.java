package dev.nachlauf.core.spool;

import dev.nachlauf.core.record.ByteHash;
import java.util.HashSet;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Keys that were met, by 46 bits of each, in memory that doesn't grow beyond a bound. It never overlooks a key that was
 * met before; that two keys share their bits without being equal is rare, so those it suspects are to be compared.
 *
 * <p>The first 14 bits choose one of many small tables, which hold the other 32: a key takes about eight bytes, and growing
 * leaves no large arrays behind.
 */
public final class KeySet {
    private static final int TABLE_BITS = 14;
    private static final int TABLES = 1 << TABLE_BITS;
    /** Slots of a table at first. */
    private static final int LEAST = 4;
    /** What a table takes beside its slots. */
    private static final int OVERHEAD = 16;

    private static final int MOST_SUSPECTS = 100_000;
    private static final long LOW = 0xFFFFFFFFL;

    private final long most;
    private final Set<Long> suspects = new HashSet<>();
    /** Each from its first key on; 0 is a free slot. */
    private int[][] tables = new int[TABLES][];

    private final int[] used = new int[TABLES];
    private long bytes;
    private boolean full;

    /** @param bytes how much memory the keys may take */
    public KeySet(long bytes) {
        most = bytes;
    }

    /** Adds a key. Once the set is full, nothing more is taken. */
    public void add(byte[] key) {
        if (full) {
            return;
        }
        long bits = bits(key);
        int number = (int) (bits >>> Integer.SIZE);
        int[] table = tables[number];
        if (table == null || used[number] == table.length - (table.length >> 2)) {
            table = grow(number, table);
            if (table == null) {
                return;
            }
        }
        int place = place(table, (int) bits);
        if (table[place] != 0) {
            suspects.add(bits);
            if (suspects.size() > MOST_SUSPECTS) {
                giveUp();
            }
            return;
        }
        table[place] = (int) bits;
        used[number]++;
    }

    /** A table with room for one key more; null where that would be beyond the bound. */
    private int @Nullable [] grow(int number, int @Nullable [] before) {
        int[] table = new int[before == null ? LEAST : before.length * 2];
        bytes += (long) (table.length - (before == null ? 0 : before.length)) * Integer.BYTES
                + (before == null ? OVERHEAD : 0);
        if (bytes > most) {
            giveUp();
            return null;
        }
        if (before != null) {
            for (int rest : before) {
                if (rest != 0) {
                    table[place(table, rest)] = rest;
                }
            }
        }
        tables[number] = table;
        return table;
    }

    /** What would be needed to go on is more than the keys may take: then what they have is given back as well. */
    private void giveUp() {
        full = true;
        tables = new int[0][];
    }

    private static int place(int[] table, int rest) {
        int mask = table.length - 1;
        int place = rest & mask;
        while (table[place] != 0 && table[place] != rest) {
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
        return full || suspects.contains(bits(key));
    }

    /** The number of the table, then what it holds: never 0, which is a free slot. */
    private static long bits(byte[] key) {
        long hash = ByteHash.bits(key, 0, key.length);
        long rest = hash & LOW;
        return hash >>> Long.SIZE - TABLE_BITS << Integer.SIZE | (rest == 0 ? 1 : rest);
    }
}

package dev.nachlauf.core.spool;

import dev.nachlauf.core.record.ByteHash;
import dev.nachlauf.core.record.ByteSink;
import java.util.Arrays;

/**
 * Numbers different keys from 0 on, in the order in which they come. It holds the keys themselves, one behind the other,
 * and looks at one only where half of its hash is the same: keys lie far from each other in memory.
 */
public final class KeyNumbers {
    /** What {@link #find} answers for a key that has no number. */
    public static final int NONE = -1;

    private final ByteSink keys = new ByteSink(1 << 12);
    /** Where each key begins, and where the last one ends. */
    private int[] starts = new int[1 << 8];
    /** Half of a key's hash, by which it has its place, and its number plus one; 0 is free. */
    private long[] table = new long[1 << 10];

    private int count;

    /** The number of a key, which gets the next one if it has none. */
    public int number(byte[] key) {
        int half = half(key);
        int place = place(half, key);
        if (table[place] == 0) {
            if (count >= table.length / 4 * 3) {
                grow();
                place = place(half, key);
            }
            add(key);
            table[place] = (long) half << Integer.SIZE | count;
        }
        return (int) table[place] - 1;
    }

    /** The number of a key; {@link #NONE} where it has none. */
    public int find(byte[] key) {
        return (int) table[place(half(key), key)] - 1;
    }

    private void add(byte[] key) {
        keys.bytes(key);
        count++;
        if (count == starts.length) {
            starts = Arrays.copyOf(starts, count * 2);
        }
        starts[count] = keys.size();
    }

    private static int half(byte[] key) {
        return (int) ByteHash.bits(key, 0, key.length);
    }

    private int place(int half, byte[] key) {
        int mask = table.length - 1;
        int place = half & mask;
        while (table[place] != 0 && !isAt(table[place], half, key)) {
            place = place + 1 & mask;
        }
        return place;
    }

    private boolean isAt(long entry, int half, byte[] key) {
        if ((int) (entry >>> Integer.SIZE) != half) {
            return false;
        }
        int number = (int) entry - 1;
        return Arrays.equals(keys.array(), starts[number], starts[number + 1], key, 0, key.length);
    }

    private void grow() {
        long[] larger = new long[table.length * 2];
        int mask = larger.length - 1;
        for (long entry : table) {
            if (entry != 0) {
                int place = (int) (entry >>> Integer.SIZE) & mask;
                while (larger[place] != 0) {
                    place = place + 1 & mask;
                }
                larger[place] = entry;
            }
        }
        table = larger;
    }

    /** How many keys there are. */
    public int count() {
        return count;
    }

    /** About how many bytes they take. */
    public long bytes() {
        return keys.size() + 4L * starts.length + 8L * table.length;
    }
}

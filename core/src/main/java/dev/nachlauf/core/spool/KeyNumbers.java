package dev.nachlauf.core.spool;

import dev.nachlauf.core.record.ByteHash;
import dev.nachlauf.core.record.ByteSink;
import java.util.Arrays;

/** Numbers different keys from 0 on, in the order in which they come. It holds the keys themselves, one behind the other. */
public final class KeyNumbers {
    /** What {@link #find} answers for a key that has no number. */
    public static final int NONE = -1;

    private final ByteSink keys = new ByteSink(1 << 12);
    /** Where each key begins, and where the last one ends. */
    private int[] starts = new int[1 << 8];
    /** Numbers plus one by the hash of their key; 0 is free. */
    private int[] table = new int[1 << 10];

    private int count;

    /** The number of a key, which gets the next one if it has none. */
    public int number(byte[] key) {
        int place = place(key);
        if (table[place] == 0) {
            if ((count + 1) * 2 > table.length) {
                grow();
                place = place(key);
            }
            add(key);
            table[place] = count;
        }
        return table[place] - 1;
    }

    /** The number of a key; {@link #NONE} where it has none. */
    public int find(byte[] key) {
        return table[place(key)] - 1;
    }

    private void add(byte[] key) {
        keys.bytes(key);
        count++;
        if (count == starts.length) {
            starts = Arrays.copyOf(starts, count * 2);
        }
        starts[count] = keys.size();
    }

    private int place(byte[] key) {
        int mask = table.length - 1;
        int place = ByteHash.of(key, 0, key.length) & mask;
        while (table[place] != 0 && !isAt(table[place] - 1, key)) {
            place = place + 1 & mask;
        }
        return place;
    }

    private boolean isAt(int number, byte[] key) {
        return Arrays.equals(keys.array(), starts[number], starts[number + 1], key, 0, key.length);
    }

    private void grow() {
        int[] larger = new int[table.length * 2];
        int mask = larger.length - 1;
        for (int number = 0; number < count; number++) {
            int place = ByteHash.of(keys.array(), starts[number], starts[number + 1]) & mask;
            while (larger[place] != 0) {
                place = place + 1 & mask;
            }
            larger[place] = number + 1;
        }
        table = larger;
    }

    /** How many keys there are. */
    public int count() {
        return count;
    }

    /** About how many bytes they take. */
    public long bytes() {
        return keys.size() + 4L * (starts.length + table.length);
    }
}

package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.core.record.ByteHash;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.StoredRecord;
import java.util.Arrays;
import java.util.List;

/** The rows of a batch by the bytes of their key, for keys that are equal exactly where their cells are. */
final class KeyPlaces {
    private final RowBlock rows;
    private final int[] key;
    private final List<CellCodec> codecs;
    /** Rows plus one by the hash of their key; 0 is free. */
    private final int[] table;

    private boolean repeated;
    private int least = -1;
    private int greatest = -1;

    /**
     * Looks at the keys of some rows.
     *
     * @param key the places of the key's fields
     * @param codecs how each part of the key is spelled
     */
    KeyPlaces(RowBlock rows, List<Integer> key, List<CellCodec> codecs, int[] which) {
        this.rows = rows;
        this.key = key.stream().mapToInt(Integer::intValue).toArray();
        this.codecs = codecs;
        this.table = new int[Integer.highestOneBit(Math.max(8, which.length)) * 4];
        for (int row : which) {
            put(row);
            least = least < 0 || compare(row, least) < 0 ? row : least;
            greatest = greatest < 0 || compare(row, greatest) > 0 ? row : greatest;
        }
    }

    private void put(int row) {
        int hash = ByteHash.start();
        for (int field : key) {
            hash = ByteHash.more(hash, rows.data(), rows.at(row, field), rows.end(row, field));
        }
        int place = ByteHash.spread(hash) & table.length - 1;
        while (table[place] != 0) {
            repeated |= isSame(row, table[place] - 1);
            place = place + 1 & table.length - 1;
        }
        table[place] = row + 1;
    }

    private boolean isSame(int row, int other) {
        for (int field : key) {
            if (!Arrays.equals(
                    rows.data(),
                    rows.at(row, field),
                    rows.end(row, field),
                    rows.data(),
                    rows.at(other, field),
                    rows.end(other, field))) {
                return false;
            }
        }
        return true;
    }

    /** Whether two rows have the same key, so that a record would belong to both. */
    boolean isRepeated() {
        return repeated;
    }

    /** The row with the least key, by its bytes. */
    int least() {
        return least;
    }

    /** The row with the greatest key. */
    int greatest() {
        return greatest;
    }

    /** The row with the key of a record; -1 where there is none. */
    int row(StoredRecord record) {
        int hash = ByteHash.start();
        for (int field : key) {
            hash = ByteHash.more(hash, record.data(), record.fieldAt(field), record.fieldAt(field + 1));
        }
        int place = ByteHash.spread(hash) & table.length - 1;
        while (table[place] != 0) {
            int row = table[place] - 1;
            if (hasKey(row, record)) {
                return row;
            }
            place = place + 1 & table.length - 1;
        }
        return -1;
    }

    private boolean hasKey(int row, StoredRecord record) {
        for (int field : key) {
            if (!Arrays.equals(
                    rows.data(),
                    rows.at(row, field),
                    rows.end(row, field),
                    record.data(),
                    record.fieldAt(field),
                    record.fieldAt(field + 1))) {
                return false;
            }
        }
        return true;
    }

    private int compare(int row, int other) {
        for (int part = 0; part < key.length; part++) {
            int at = rows.at(row, key[part]);
            int otherAt = rows.at(other, key[part]);
            int order = codecs.get(part) == CellCodec.TEXT
                    ? Arrays.compareUnsigned(
                            rows.data(),
                            at + Integer.BYTES,
                            rows.end(row, key[part]),
                            rows.data(),
                            otherAt + Integer.BYTES,
                            rows.end(other, key[part]))
                    : compareFixed(at, otherAt, rows.end(row, key[part]));
            if (order != 0) {
                return order;
            }
        }
        return 0;
    }

    /** Numbers, dates and times: the first byte has the sign. */
    private int compareFixed(int at, int otherAt, int end) {
        byte[] data = rows.data();
        int first = at + Integer.BYTES;
        int otherFirst = otherAt + Integer.BYTES;
        int order = Byte.compare(data[first], data[otherFirst]);
        return order != 0
                ? order
                : Arrays.compareUnsigned(data, first, end, data, otherFirst, otherFirst + end - first);
    }
}

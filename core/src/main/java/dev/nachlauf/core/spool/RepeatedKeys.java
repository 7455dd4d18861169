package dev.nachlauf.core.spool;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.Iterator;
import org.jspecify.annotations.Nullable;

/**
 * Rows whose key occurs more than once in a load, however far apart. Add every key, then ask for rows in ascending
 * order. Memory stays constant: both the keys and the rows found are sorted on disk when they are many.
 */
public final class RepeatedKeys implements AutoCloseable {
    private static final byte[] NO_KEY = {};

    private final ExternalSort byKey;
    private final ExternalSort byRow;
    private @Nullable Iterator<ExternalSort.Entry> rows;
    private ExternalSort.@Nullable Entry next;
    private long count;

    public RepeatedKeys(Path scratch) {
        this(scratch, ExternalSort.BUFFER);
    }

    RepeatedKeys(Path scratch, int buffer) {
        byKey = new ExternalSort(scratch, buffer);
        byRow = new ExternalSort(scratch, buffer);
    }

    /**
     * Notes the key of a row.
     *
     * @param shown the number by which people know the row
     */
    public void add(byte[] key, long row, long shown) {
        byKey.add(key, row, shown);
    }

    /**
     * Ends the adding and finds what is repeated.
     *
     * @param pulse is run all along, and may end the search by an exception
     */
    public void find(Runnable pulse) {
        ExternalSort.Entry first = null;
        boolean repeated = false;
        for (Iterator<ExternalSort.Entry> keys = byKey.sorted(); keys.hasNext(); ) {
            pulse.run();
            ExternalSort.Entry entry = keys.next();
            if (first != null && Arrays.equals(first.key(), entry.key())) {
                if (!repeated) {
                    repeated(first.number(), entry.other());
                }
                repeated(entry.number(), first.other());
                repeated = true;
            } else {
                first = entry;
                repeated = false;
            }
        }
        byKey.close();
        rewind();
    }

    private void repeated(long row, long other) {
        byRow.add(NO_KEY, row, other);
        count++;
    }

    /** Begins again to be asked, from the first row on. */
    public void rewind() {
        rows = byRow.sorted();
        advance();
    }

    private void advance() {
        next = rows != null && rows.hasNext() ? rows.next() : null;
    }

    /** How many rows have a key that occurs more than once. */
    public long count() {
        return count;
    }

    /**
     * Another row with the same key: the first one, or for the first row itself the second; 0 when the key of {@code row}
     * is unique. Rows are asked for in ascending order; rows may be left out.
     */
    public long otherRow(long row) {
        while (next != null && next.number() < row) {
            advance();
        }
        return next != null && next.number() == row ? next.other() : 0;
    }

    @Override
    public void close() {
        byKey.close();
        byRow.close();
    }
}

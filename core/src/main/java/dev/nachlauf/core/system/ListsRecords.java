package dev.nachlauf.core.system;

import dev.nachlauf.core.record.RowBlock;
import java.util.function.Consumer;

/** A target that can hand over all that it holds, so that it is known what the source no longer has. */
public interface ListsRecords {
    /** Hands over every record, in any order; each is lent for the call. */
    void list(Consumer<StoredRecord> to);

    /** How many there are now, counted and never guessed. */
    default long count() {
        long[] count = new long[1];
        list(any -> count[0]++);
        return count[0];
    }

    /**
     * Hands over every record with the key of one of some rows, in any order. Where several rows have the same key, its
     * records come for each of them.
     *
     * @param rows values in the order of {@link TargetUse#fields}; keys have no nulls
     * @param which the rows that are asked about
     */
    void list(RowBlock rows, int[] which, Consumer<StoredRecord> to);
}

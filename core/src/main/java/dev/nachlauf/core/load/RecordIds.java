package dev.nachlauf.core.load;

import dev.nachlauf.core.record.ByteHash;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.system.ChangeSet;
import java.util.Arrays;

/** The ids of the records that the rows of a set have found, so that two rows on one record are noticed. */
final class RecordIds {
    private final ChangeSet changes;
    private final int parts;
    /** Rows plus one by the hash of their id; 0 is free. */
    private final int[] table;

    RecordIds(ChangeSet changes, int rows) {
        this.changes = changes;
        this.parts = changes.cells().id().size();
        this.table = new int[Math.max(16, Integer.highestOneBit(Math.max(1, rows)) * 4)];
    }

    /** Adds a row that has an id; the answer is another row with the same one, or -1. */
    int add(int row) {
        byte[] kept = changes.kept();
        int start = changes.idAt(row);
        int end = end(kept, start);
        int place = ByteHash.of(kept, start, end) & table.length - 1;
        while (table[place] != 0) {
            int other = table[place] - 1;
            int otherStart = changes.idAt(other);
            if (Arrays.equals(kept, start, end, kept, otherStart, end(kept, otherStart))) {
                return other;
            }
            place = place + 1 & table.length - 1;
        }
        table[place] = row + 1;
        return -1;
    }

    private int end(byte[] kept, int start) {
        int end = start;
        for (int part = 0; part < parts; part++) {
            end = CellCodec.end(kept, end);
        }
        return end;
    }
}

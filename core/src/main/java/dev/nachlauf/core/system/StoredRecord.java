package dev.nachlauf.core.system;

import dev.nachlauf.core.record.CellCodec;
import org.jspecify.annotations.Nullable;

/**
 * A record as a target found it: its mark, the parts of its id, then the wanted fields, one cell behind the other. It is
 * lent for as long as a {@link Target.Found} takes it; the next record comes in the same object.
 */
public final class StoredRecord {
    private final Cells cells;
    private final int ids;
    private final int[] starts;
    private byte[] data = {};

    public StoredRecord(Cells cells) {
        this.cells = cells;
        this.ids = cells.id().size();
        this.starts = new int[1 + ids + cells.fields().size() + 1];
    }

    /** Lays the record over the cells that begin here. */
    public StoredRecord over(byte[] bytes, int at) {
        data = bytes;
        int cell = at;
        for (int i = 0; i < starts.length - 1; i++) {
            starts[i] = cell;
            cell = CellCodec.end(bytes, cell);
        }
        starts[starts.length - 1] = cell;
        return this;
    }

    /** The bytes in which the cells lie. */
    public byte[] data() {
        return data;
    }

    /** Where the mark begins; the parts of the id follow it. */
    public int markAt() {
        return starts[0];
    }

    /** Where the id begins; the fields follow it. */
    public int idAt() {
        return starts[1];
    }

    /** Where a field begins; beyond the last one, where the record ends. */
    public int fieldAt(int field) {
        return starts[1 + ids + field];
    }

    /** The value of a field. */
    public @Nullable Object value(int field) {
        return cells.fields().get(field).read(data, fieldAt(field));
    }
}

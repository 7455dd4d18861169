package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.staged.StagedTable;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ChangeSet.Kind;
import java.util.stream.IntStream;

/** A change as a row of the staging table: its write and number, kind, mark, mask, id, and the record as it will be. */
final class StagedChange {
    private static final int FACTS = 5;

    private final int ids;
    private final int fields;

    /**
     * @param ids how many parts the id has
     * @param fields how many fields are written
     */
    StagedChange(int ids, int fields) {
        this.ids = ids;
        this.fields = fields;
    }

    /** Adds the change of a row. */
    void add(int write, ChangeSet changes, int row, BinaryCopy copied) {
        Kind kind = changes.kind(row);
        copied.row(FACTS + ids + fields);
        copied.int4(write);
        copied.int4(row);
        copied.int2(StagedTable.number(kind));
        if (changes.markAt(row) < 0) {
            copied.nothing();
        } else {
            copied.cells(changes.kept(), changes.markAt(row), CellCodec.end(changes.kept(), changes.markAt(row)));
        }
        copied.text(kind == Kind.UPDATE ? mask(changes, row) : null);
        id(changes, row, copied);
        values(changes, row, kind, copied);
    }

    /** The changed fields as a text of zeros and ones. */
    private String mask(ChangeSet changes, int row) {
        StringBuilder mask = new StringBuilder(fields);
        for (int field = 0; field < fields; field++) {
            mask.append(changes.isChanged(row, field) ? '1' : '0');
        }
        return mask.toString();
    }

    private void id(ChangeSet changes, int row, BinaryCopy copied) {
        int start = changes.idAt(row);
        if (start < 0) {
            IntStream.range(0, ids).forEach(id -> copied.nothing());
        } else {
            int end = start;
            for (int part = 0; part < ids; part++) {
                end = CellCodec.end(changes.kept(), end);
            }
            copied.cells(changes.kept(), start, end);
        }
    }

    /** The record as it will be: a field that an update leaves alone goes as it stands there. */
    private void values(ChangeSet changes, int row, Kind kind, BinaryCopy copied) {
        RowBlock rows = changes.rows();
        if (kind == Kind.DELETE) {
            IntStream.range(0, fields).forEach(field -> copied.nothing());
        } else if (kind == Kind.INSERT) {
            copied.cells(rows.data(), rows.at(row, 0), rows.end(row, fields - 1));
        } else {
            byte[] kept = changes.kept();
            int old = changes.beforeAt(row);
            for (int field = 0; field < fields; field++) {
                int next = CellCodec.end(kept, old);
                if (changes.isChanged(row, field)) {
                    copied.cells(rows.data(), rows.at(row, field), rows.end(row, field));
                } else {
                    copied.cells(kept, old, next);
                }
                old = next;
            }
        }
    }
}

package dev.nachlauf.core.run;

import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.value.Values;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * How the records of planned changes stand now: as the plan found them, as it leaves them, or otherwise, because somebody
 * else has changed them. Only fields that a change speaks of count.
 */
final class StoredNow implements Target.Found {
    private final Cells cells;
    private final ChangeSet changes;
    private final As[] as;
    private final ByteSink ids = new ByteSink(64);
    private final int[] idAt;

    /** How a record stands. */
    enum As {
        /** Nothing is done yet. */
        BEFORE,
        /** It is done. */
        AFTER,
        OTHERWISE
    }

    private StoredNow(ChangeSet changes) {
        this.cells = changes.cells();
        this.changes = changes;
        this.as = new As[changes.rows().rows()];
        this.idAt = new int[as.length];
        Arrays.fill(idAt, -1);
    }

    /**
     * Looks the records up by key. A change of which nothing is done yet gets the mark that its record has now, so that it
     * can be carried out.
     *
     * @param which rows of the set with a change
     */
    static StoredNow of(Target target, ChangeSet changes, int[] which) {
        StoredNow now = new StoredNow(changes);
        target.find(changes.rows(), which, now);
        for (int row : which) {
            if (now.as[row] == null) {
                now.as[row] = switch (changes.kind(row)) {
                    case INSERT -> As.BEFORE;
                    case DELETE -> As.AFTER;
                    case UPDATE, LEAVE, NONE -> As.OTHERWISE;
                };
            }
        }
        return now;
    }

    @Override
    public void take(int row, StoredRecord record) {
        if (as[row] != null) {
            as[row] = As.OTHERWISE;
            return;
        }
        idAt[row] = ids.size();
        ids.range(record.data(), record.idAt(), record.fieldAt(0));
        as[row] = switch (changes.kind(row)) {
            case INSERT -> isAfter(row, record) ? As.AFTER : As.OTHERWISE;
            case UPDATE -> !isOwn(row, record) ? As.OTHERWISE : isAfter(row, record) ? As.AFTER : before(row, record);
            case DELETE -> isOwn(row, record) ? before(row, record) : As.OTHERWISE;
            case LEAVE, NONE -> As.OTHERWISE;
        };
    }

    private boolean isOwn(int row, StoredRecord record) {
        return Values.same(ChangeSet.id(cells, record.data(), record.idAt()), changes.id(row));
    }

    private boolean isAfter(int row, StoredRecord record) {
        boolean all = changes.kind(row) == ChangeSet.Kind.INSERT;
        for (int field = 0; field < cells.fields().size(); field++) {
            if ((all || changes.isChanged(row, field))
                    && !cells.fields()
                            .get(field)
                            .same(
                                    changes.rows().data(),
                                    changes.rows().at(row, field),
                                    record.data(),
                                    record.fieldAt(field))) {
                return false;
            }
        }
        return true;
    }

    /** As it was before, or otherwise. What is to be changed is known whole from now on. */
    private As before(int row, StoredRecord record) {
        byte[] kept = changes.kept();
        int cell = changes.beforeAt(row);
        for (int field = 0; field < cells.fields().size(); field++) {
            CellCodec codec = cells.fields().get(field);
            if (changes.isChanged(row, field) && !codec.same(kept, cell, record.data(), record.fieldAt(field))) {
                return As.OTHERWISE;
            }
            cell = CellCodec.end(kept, cell);
        }
        if (changes.kind(row) == ChangeSet.Kind.DELETE) {
            changes.delete(row, record);
        } else {
            // with the fields that it leaves alone, for a target looks at whole records
            changes.update(row, record);
        }
        return As.BEFORE;
    }

    /** How the record of a row stands. */
    As as(int row) {
        return as[row];
    }

    /** What identifies the record of a row that was found; null where none was. */
    @Nullable
    Object id(int row) {
        return idAt[row] < 0 ? null : ChangeSet.id(cells, ids.array(), idAt[row]);
    }
}

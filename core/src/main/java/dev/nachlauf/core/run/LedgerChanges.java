package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Objects;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Turns lines of the ledger into changes of one target: the door for what is planned already. A line is done as it stands
 * there, nothing is computed a second time; {@link StoredNow} says whether it still can be.
 */
final class LedgerChanges {
    private final Cells cells;
    private final int[] fields;
    private final boolean ownIds;

    /**
     * Changes of a target.
     *
     * @param cells how the target spells its records
     * @param fields those that the target was opened for, by their place in the ledger: one may be there no longer
     * @param ownIds whether new records get the ids that the ledger knows
     */
    LedgerChanges(Cells cells, int[] fields, boolean ownIds) {
        this.cells = cells;
        this.fields = fields;
        this.ownIds = ownIds;
    }

    /** Changes of a target of which all fields are there. */
    LedgerChanges(Cells cells, boolean ownIds) {
        this(cells, IntStream.range(0, cells.fields().size()).toArray(), ownIds);
    }

    /** What lines of one write say, each of which changes a record. */
    ChangeSet of(List<LedgerRow> lines) {
        ChangeSet changes = ChangeSet.of(cells, lines.stream().map(this::change).toList());
        for (int row = 0; row < lines.size(); row++) {
            if (lines.get(row).outcome() == Outcome.DELETED) {
                known(changes, row, lines.get(row));
            }
        }
        return changes;
    }

    /** What a record must still hold to be removed: what the line knows of it. */
    private void known(ChangeSet changes, int row, LedgerRow line) {
        for (int i = 0; i < fields.length; i++) {
            if (line.changed().isEmpty() || line.changed().get(fields[i])) {
                changes.change(row, i);
            }
        }
    }

    private Change change(LedgerRow line) {
        @Nullable Object[] before = cut(line.before());
        @Nullable Object[] after = withKey(line, cut(line.after()));
        if (line.outcome() == Outcome.INSERTED) {
            return new Change.Insert(ownIds ? line.id() : null, after);
        }
        Object id = Objects.requireNonNull(line.id(), "a record that was changed has an id");
        return line.outcome() == Outcome.DELETED
                ? new Change.Delete(id, line.mark(), before)
                : new Change.Update(id, line.mark(), before, after, changed(line));
    }

    private @Nullable Object[] cut(@Nullable Object[] values) {
        @Nullable Object[] cut = new Object[fields.length];
        for (int i = 0; i < cut.length && values.length > 0; i++) {
            cut[i] = values[fields[i]];
        }
        return cut;
    }

    /** The record is found by its key, which an update leaves as it is. */
    private @Nullable Object[] withKey(LedgerRow line, @Nullable Object[] after) {
        List<Object> key = Objects.requireNonNull(line.key(), "a line with a record has a key");
        for (int part = 0; part < cells.key().size(); part++) {
            int field = cells.key().get(part);
            after[field] = after[field] == null ? key.get(part) : after[field];
        }
        return after;
    }

    private BitSet changed(LedgerRow line) {
        BitSet changed = new BitSet();
        for (int i = 0; i < fields.length; i++) {
            changed.set(i, line.changed().get(fields[i]));
        }
        return changed;
    }

    /** The lines of one write that changed a record. */
    static List<LedgerRow> of(List<LedgerRow> lines, int write) {
        List<LedgerRow> own = new ArrayList<>();
        for (LedgerRow line : lines) {
            if (line.write() == write && line.wrote()) {
                own.add(line);
            }
        }
        return own;
    }
}

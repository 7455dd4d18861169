package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Objects;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Turns lines of the ledger into changes of one target: the door for what is planned already. A line is done as it stands
 * there, nothing is computed a second time; and it is done only where the record still is what the ledger expects.
 */
final class LedgerChanges {
    private final Cells cells;
    private final List<LedgerRow> lines;
    private final int[] fields;

    /**
     * The changes of these lines.
     *
     * @param cells how the target spells its records
     * @param lines of one write, each of which changes a record
     * @param fields those that the target was opened for, by their place in the ledger: one may be there no longer
     */
    LedgerChanges(Cells cells, List<LedgerRow> lines, int[] fields) {
        this.cells = cells;
        this.lines = lines;
        this.fields = fields;
    }

    /** The changes of these lines, where all fields are there. */
    LedgerChanges(Cells cells, List<LedgerRow> lines) {
        this(cells, lines, IntStream.range(0, cells.fields().size()).toArray());
    }

    /** What the lines say, whatever is stored: to ask whether it was done. */
    ChangeSet asTheyStand() {
        return ChangeSet.of(cells, lines.stream().map(this::change).toList());
    }

    private Change change(LedgerRow line) {
        @Nullable Object[] before = cut(line.before());
        @Nullable Object[] after = cut(line.after());
        if (line.outcome() == Outcome.INSERTED) {
            return new Change.Insert(line.id(), after);
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

    private BitSet changed(LedgerRow line) {
        BitSet changed = new BitSet();
        for (int i = 0; i < fields.length; i++) {
            changed.set(i, line.changed().get(fields[i]));
        }
        return changed;
    }

    /**
     * The changes of those lines whose records are as they were before, or not there yet where they are new. A line of
     * which that is not so has no change in the set: somebody has changed the record since.
     *
     * @param ownIds whether new records get the ids that the ledger knows
     */
    ChangeSet whereNothingChanged(Target target, boolean ownIds) {
        RowBlock.Builder wanted = new RowBlock.Builder(cells.fields().size(), lines.size());
        lines.forEach(line -> add(line, wanted));
        ChangeSet changes = new ChangeSet(cells, wanted.build());
        int[] all = IntStream.range(0, lines.size()).toArray();
        BitSet found = new BitSet();
        BitSet several = new BitSet();
        ByteSink expected = new ByteSink(256);
        target.find(changes.rows(), all, (row, record) -> {
            several.set(row, found.get(row));
            found.set(row);
            if (isExpected(lines.get(row), record, expected)) {
                put(changes, row, record);
            }
        });
        several.stream().forEach(changes::forget);
        for (int row : all) {
            LedgerRow line = lines.get(row);
            if (line.outcome() == Outcome.INSERTED && !found.get(row)) {
                changes.insert(row);
                if (ownIds && line.id() != null) {
                    changes.identify(row, line.id());
                }
            }
        }
        return changes;
    }

    /** The values of a line, the key's among them. */
    private void add(LedgerRow line, RowBlock.Builder wanted) {
        List<Object> key = Objects.requireNonNull(line.key(), "a line with a record has a key");
        for (int field = 0; field < cells.fields().size(); field++) {
            int part = cells.key().indexOf(field);
            boolean changed =
                    line.outcome() != Outcome.DELETED && line.changed().get(field);
            Object value = changed ? line.after()[field] : part >= 0 ? key.get(part) : null;
            wanted.add(value, cells.fields().get(field));
        }
    }

    private boolean isExpected(LedgerRow line, StoredRecord record, ByteSink expected) {
        Object id = ChangeSet.id(cells, record.data(), record.idAt());
        if (line.outcome() == Outcome.INSERTED || !Values.same(id, line.id())) {
            return false;
        }
        for (int field = 0; field < cells.fields().size(); field++) {
            if (line.outcome() == Outcome.DELETED || line.changed().get(field)) {
                CellCodec codec = cells.fields().get(field);
                expected.clear();
                codec.write(line.before()[field], expected);
                if (!codec.same(expected.array(), 0, record.data(), record.fieldAt(field))) {
                    return false;
                }
            }
        }
        return true;
    }

    private void put(ChangeSet changes, int row, StoredRecord record) {
        LedgerRow line = lines.get(row);
        if (line.outcome() == Outcome.DELETED) {
            changes.delete(row, record);
        } else {
            changes.update(row, record);
            line.changed().stream().forEach(field -> changes.change(row, field));
        }
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

package dev.nachlauf.core.system;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Objects;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * What is to become of the records of one write in one batch. Rows are known by their number in the block of values; for
 * each there is a kind of change, the fields that it changes, and what was found: the record's id, its mark, and its
 * fields as they were. Everything is bytes in the target's own form. Not for several threads at once.
 */
public final class ChangeSet {
    private static final Kind[] KINDS = Kind.values();
    private static final int NOWHERE = -1;
    /** What was found of a batch and differs is kept: as much as this share of the memory. */
    private static final long MOST_KEPT = Math.min(Runtime.getRuntime().maxMemory() / 8, Integer.MAX_VALUE / 2);

    private final Cells cells;
    private final RowBlock rows;
    private final int words;
    private final byte[] kinds;
    private final int[] marks;
    private final int[] ids;
    private final int[] befores;
    private final long[] masks;
    private final ByteSink kept = new ByteSink(1 << 12);

    /** What is done about a row. */
    public enum Kind {
        /** Nothing is decided, or the row can't be written. */
        NONE,
        /** The record is as it should be. */
        LEAVE,
        INSERT,
        UPDATE,
        DELETE;

        /** Whether a record is changed. */
        public boolean isChange() {
            return this == INSERT || this == UPDATE || this == DELETE;
        }
    }

    /** Nothing is decided yet about these rows, whose cells are the values of {@link TargetUse#fields}. */
    public ChangeSet(Cells cells, RowBlock rows) {
        this.cells = cells;
        this.rows = rows;
        this.words = (cells.fields().size() + Long.SIZE - 1) / Long.SIZE;
        int count = rows.rows();
        kinds = new byte[count];
        marks = new int[count];
        ids = new int[count];
        befores = new int[count];
        masks = new long[count * words];
        Arrays.fill(marks, NOWHERE);
        Arrays.fill(ids, NOWHERE);
        Arrays.fill(befores, NOWHERE);
    }

    /** The changes as one set, in their order. */
    public static ChangeSet of(Cells cells, List<? extends Change> changes) {
        int width = cells.fields().size();
        RowBlock.Builder values = new RowBlock.Builder(width, changes.size());
        for (Change change : changes) {
            @Nullable Object[] row = change instanceof Change.Delete delete ? delete.before() : change.after();
            for (int field = 0; field < width; field++) {
                values.add(
                        field < row.length ? row[field] : null, cells.fields().get(field));
            }
        }
        ChangeSet set = new ChangeSet(cells, values.build());
        for (int row = 0; row < changes.size(); row++) {
            set.put(row, changes.get(row));
        }
        return set;
    }

    private void put(int row, Change change) {
        switch (change) {
            case Change.Insert insert -> {
                insert(row);
                if (insert.id() != null) {
                    identify(row, insert.id());
                }
            }
            case Change.Update update -> {
                kinds[row] = (byte) Kind.UPDATE.ordinal();
                found(row, update.mark(), update.id(), update.before());
                update.changed().stream().forEach(field -> change(row, field));
            }
            case Change.Delete delete -> {
                kinds[row] = (byte) Kind.DELETE.ordinal();
                found(row, delete.mark(), delete.id(), delete.before());
            }
        }
    }

    private void found(int row, @Nullable Object mark, Object id, @Nullable Object[] before) {
        marks[row] = kept.size();
        cells.mark().write(mark, kept);
        identify(row, id);
        befores[row] = kept.size();
        for (int field = 0; field < cells.fields().size(); field++) {
            cells.fields().get(field).write(field < before.length ? before[field] : null, kept);
        }
    }

    /** How the target spells what is in the set. */
    public Cells cells() {
        return cells;
    }

    /** The values that the rows want to have stored. */
    public RowBlock rows() {
        return rows;
    }

    /** Nothing is known of the row any more. */
    public void forget(int row) {
        kinds[row] = (byte) Kind.NONE.ordinal();
        marks[row] = NOWHERE;
        ids[row] = NOWHERE;
        befores[row] = NOWHERE;
        Arrays.fill(masks, row * words, (row + 1) * words, 0);
    }

    /** The record is as it should be. */
    public void leave(int row, StoredRecord record) {
        kinds[row] = (byte) Kind.LEAVE.ordinal();
        found(row, record, record.fieldAt(0));
    }

    /** There is no record, and none is wanted. */
    public void leaveAbsent(int row) {
        kinds[row] = (byte) Kind.LEAVE.ordinal();
    }

    /** The record is new. */
    public void insert(int row) {
        kinds[row] = (byte) Kind.INSERT.ordinal();
    }

    /** The record changes; which of its fields is said by {@link #change}. */
    public void update(int row, StoredRecord record) {
        kinds[row] = (byte) Kind.UPDATE.ordinal();
        found(row, record, record.fieldAt(cells.fields().size()));
        befores[row] = ids[row] + record.fieldAt(0) - record.idAt();
    }

    /** The record goes. */
    public void delete(int row, StoredRecord record) {
        update(row, record);
        kinds[row] = (byte) Kind.DELETE.ordinal();
    }

    private void found(int row, StoredRecord record, int end) {
        if (kept.size() + (long) end - record.markAt() > MOST_KEPT) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.BATCH_TOO_LARGE,
                    "The stored records of one batch hold more than " + (MOST_KEPT >> 20) + " MB.",
                    "Start the service with smaller batches (NACHLAUF_BATCH_ROWS) or more memory (NACHLAUF_HEAP),"
                            + " then start the job again."));
        }
        marks[row] = kept.size();
        ids[row] = kept.size() + record.idAt() - record.markAt();
        kept.range(record.data(), record.markAt(), end);
    }

    /** A field of the row's record changes; one that is removed is known to hold it. */
    public void change(int row, int field) {
        masks[row * words + field / Long.SIZE] |= 1L << field;
    }

    /** The record of the row has this id, or will have it: one value, or a list where it has several parts. */
    public void identify(int row, Object id) {
        ids[row] = kept.size();
        List<CellCodec> codecs = cells.id();
        for (int part = 0; part < codecs.size(); part++) {
            codecs.get(part).write(id instanceof List<?> parts ? parts.get(part) : id, kept);
        }
    }

    /** What is done about a row. */
    public Kind kind(int row) {
        return KINDS[kinds[row]];
    }

    /** The rows of these to which this is done. */
    public int[] rows(Kind kind, int[] among) {
        return IntStream.of(among).filter(row -> kind(row) == kind).toArray();
    }

    /** The rows of these of which a record is changed. */
    public int[] changes(int[] among) {
        return IntStream.of(among).filter(row -> kind(row).isChange()).toArray();
    }

    /** Whether a field of the row's record is changed; of one that is removed, whether it must be as it is known. */
    public boolean isChanged(int row, int field) {
        return (masks[row * words + field / Long.SIZE] >> field & 1) != 0;
    }

    /** The same as bits, the lowest for the first field; a long for each 64 fields. */
    public long[] mask(int row) {
        return Arrays.copyOfRange(masks, row * words, (row + 1) * words);
    }

    /** The fields of the row's record that are changed. */
    public BitSet changed(int row) {
        return BitSet.valueOf(mask(row));
    }

    /** The bytes in which marks, ids and values from before lie; they may move when something is added. */
    public byte[] kept() {
        return kept.array();
    }

    /** Where the mark of the record that was found begins; negative where none was. */
    public int markAt(int row) {
        return marks[row];
    }

    /** Where the id begins, its parts one behind the other; negative where none is known. */
    public int idAt(int row) {
        return ids[row];
    }

    /** Where the fields as they were begin, one behind the other; negative where they are not kept. */
    public int beforeAt(int row) {
        return befores[row];
    }

    /** What identifies the record; null where that is not known. */
    public @Nullable Object id(int row) {
        return ids[row] < 0 ? null : id(cells, kept.array(), ids[row]);
    }

    /** An id by the cells that begin here: one value, or a list where it has several parts. */
    public static @Nullable Object id(Cells cells, byte[] data, int at) {
        @Nullable Object[] parts = new Object[cells.id().size()];
        int cell = at;
        for (int part = 0; part < parts.length; part++) {
            parts[part] = cells.id().get(part).read(data, cell);
            cell = CellCodec.end(data, cell);
        }
        return parts.length == 1 ? parts[0] : Arrays.asList(parts);
    }

    /** What the record will hold in a field: the row's value, or what is there where the row leaves it. */
    public @Nullable Object after(int row, int field) {
        return kind(row) == Kind.UPDATE && !isChanged(row, field)
                ? before(row, field)
                : rows.value(row, field, cells.fields().get(field));
    }

    /** What the record held in a field. */
    public @Nullable Object before(int row, int field) {
        int cell = befores[row];
        for (int skipped = 0; skipped < field; skipped++) {
            cell = CellCodec.end(kept.array(), cell);
        }
        return cells.fields().get(field).read(kept.array(), cell);
    }

    /** The change of a row as an object of its own. */
    public Change change(int row) {
        int width = cells.fields().size();
        @Nullable Object[] after = new Object[width];
        @Nullable Object[] before = new Object[width];
        Kind kind = kind(row);
        for (int field = 0; field < width; field++) {
            after[field] = after(row, field);
            before[field] = befores[row] < 0 ? null : before(row, field);
        }
        return switch (kind) {
            case INSERT -> new Change.Insert(id(row), after);
            case UPDATE -> new Change.Update(known(id(row)), mark(row), before, after, changed(row));
            case DELETE -> new Change.Delete(known(id(row)), mark(row), before);
            case NONE, LEAVE -> throw new IllegalArgumentException("row " + row + " changes nothing");
        };
    }

    private @Nullable Object mark(int row) {
        return marks[row] < 0 ? null : cells.mark().read(kept.array(), marks[row]);
    }

    private static Object known(@Nullable Object id) {
        return Objects.requireNonNull(id, "a record that was found has an id");
    }
}

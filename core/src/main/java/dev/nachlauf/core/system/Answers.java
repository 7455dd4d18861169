package dev.nachlauf.core.system;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.ByteSink;
import dev.nachlauf.core.record.CellCodec;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** What a target says about the rows of a {@link ChangeSet}, by their numbers there. */
public final class Answers {
    private static final Kind[] KINDS = Kind.values();
    private static final int NOWHERE = -1;

    private final Cells cells;
    private final byte[] kinds;
    private final int[] ids;
    private final int[] stored;
    private final Map<Integer, List<Problem>> problems = new HashMap<>();
    private final ByteSink told = new ByteSink(64);

    /** The kinds of answers. */
    public enum Kind {
        /** The row was not asked about. */
        NONE,
        DONE,
        REFUSED,
        /** Somebody changed the record since it was found; nothing was written. */
        MOVED,
        UNKNOWN
    }

    /** Answers to this set, of which none is given yet. */
    public Answers(ChangeSet changes) {
        cells = changes.cells();
        int rows = changes.rows().rows();
        kinds = new byte[rows];
        ids = new int[rows];
        stored = new int[rows];
        Arrays.fill(ids, NOWHERE);
        Arrays.fill(stored, NOWHERE);
    }

    private void answer(int row, Kind kind) {
        kinds[row] = (byte) kind.ordinal();
    }

    /** No answer, after all. */
    public void forget(int row) {
        answer(row, Kind.NONE);
        ids[row] = NOWHERE;
        stored[row] = NOWHERE;
        problems.remove(row);
    }

    /** Written. */
    public void done(int row) {
        answer(row, Kind.DONE);
    }

    /** Written; the system gave the record this id, a list where it has several parts. */
    public void done(int row, @Nullable Object id) {
        done(row);
        ids[row] = told.size();
        List<CellCodec> codecs = cells.id();
        for (int part = 0; part < codecs.size(); part++) {
            codecs.get(part).write(id instanceof List<?> parts ? parts.get(part) : id, told);
        }
    }

    /** What is stored now in place of what was sent. */
    public void stored(int row, @Nullable Object[] values) {
        stored[row] = told.size();
        for (int field = 0; field < values.length; field++) {
            cells.fields().get(field).write(values[field], told);
        }
    }

    /** Refused, with all reasons that could be found. */
    public void refused(int row, List<Problem> reasons) {
        answer(row, Kind.REFUSED);
        problems.put(row, List.copyOf(reasons));
    }

    /** Somebody changed the record since it was found. */
    public void moved(int row) {
        answer(row, Kind.MOVED);
    }

    /** Nothing is known. */
    public void unknown(int row) {
        answer(row, Kind.UNKNOWN);
    }

    /** What is said of a row. */
    public Kind kind(int row) {
        return KINDS[kinds[row]];
    }

    /** Why the row was refused. */
    public List<Problem> problems(int row) {
        return problems.getOrDefault(row, List.of());
    }

    /** The bytes in which ids and stored values lie. */
    public byte[] told() {
        return told.array();
    }

    /** Where the id that the system gave begins; negative where it gave none. */
    public int idAt(int row) {
        return ids[row];
    }

    /** Where the fields as they are stored begin, one behind the other; negative where they are as they were sent. */
    public int storedAt(int row) {
        return stored[row];
    }

    /** What identifies a row's record: what the system gave, else what {@code changes} knows; null where neither does. */
    public @Nullable Object id(int row, ChangeSet changes) {
        return ids[row] < 0 ? changes.id(row) : ChangeSet.id(cells, told.array(), ids[row]);
    }

    /** The answer as an object of its own; {@code changes} knows the id where the system gave none. */
    public Answer get(int row, ChangeSet changes) {
        return switch (kind(row)) {
            case DONE -> new Answer.Done(id(row, changes), stored[row] < 0 ? null : storedValues(row));
            case REFUSED -> new Answer.Refused(Objects.requireNonNull(problems.get(row)));
            case MOVED -> new Answer.Moved();
            case UNKNOWN -> new Answer.Unknown();
            case NONE -> throw new IllegalStateException("row " + row + " was not answered");
        };
    }

    private @Nullable Object[] storedValues(int row) {
        @Nullable Object[] values = new Object[cells.fields().size()];
        int cell = stored[row];
        for (int field = 0; field < values.length; field++) {
            values[field] = cells.fields().get(field).read(told.array(), cell);
            cell = CellCodec.end(told.array(), cell);
        }
        return values;
    }
}

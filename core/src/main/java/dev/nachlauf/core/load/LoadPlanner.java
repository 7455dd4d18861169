package dev.nachlauf.core.load;

import dev.nachlauf.core.job.JobDefinition.Action;
import dev.nachlauf.core.job.JobDefinition.WriteRule;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.function.IntToLongFunction;
import java.util.stream.IntStream;

/**
 * Decides row by row what has to be written: match by key, compare field by field. It is handed the stored records as
 * they come, one after the other, and keeps of each only what differs.
 */
public final class LoadPlanner implements Target.Found {
    private static final String ALREADY_THERE = "already there";
    private static final String NOT_FOUND = "not found";

    private final PlannedWrite write;
    private final List<Output> outputs;
    private final Cells cells;
    private final ChangeSet changes;
    private final RowBlock rows;
    /** Whether some field is written under conditions. */
    private final boolean conditions;

    private final BitSet found = new BitSet();
    private final BitSet unmet = new BitSet();
    private final BitSet ambiguous = new BitSet();

    /** @param changes takes the decisions; its rows are as the target would spell them */
    public LoadPlanner(PlannedWrite write, ChangeSet changes) {
        this.write = write;
        this.outputs = write.fields();
        this.cells = changes.cells();
        this.changes = changes;
        this.rows = changes.rows();
        this.conditions = outputs.stream().anyMatch(output -> output.rule() != WriteRule.ALWAYS || output.leaveBlank());
    }

    /** Forgets what was decided about these rows. */
    public void begin(int[] which) {
        for (int row : which) {
            changes.forget(row);
            found.clear(row);
            ambiguous.clear(row);
            unmet.clear(row);
        }
    }

    @Override
    public void take(int row, StoredRecord record) {
        if (found.get(row)) {
            ambiguous.set(row);
            return;
        }
        found.set(row);
        switch (write.action()) {
            case INSERT, ISSUE -> changes.leave(row, record);
            case DELETE -> delete(row, record);
            case UPDATE, UPSERT, REPLACE -> {
                if (!conditions && isSame(row, record)) {
                    changes.leave(row, record);
                } else {
                    compare(row, record);
                }
            }
        }
    }

    /** All that the record holds is known, so that it can be told whether it is still the same. */
    private void delete(int row, StoredRecord record) {
        changes.delete(row, record);
        for (int field = 0; field < rows.width(); field++) {
            changes.change(row, field);
        }
    }

    /** Whether all cells are the same bytes, which is how most rows of a repeated load are. */
    private boolean isSame(int row, StoredRecord record) {
        int width = rows.width();
        return Arrays.equals(
                rows.data(),
                rows.at(row, 0),
                rows.end(row, width - 1),
                record.data(),
                record.fieldAt(0),
                record.fieldAt(width));
    }

    private void compare(int row, StoredRecord record) {
        boolean differs = false;
        for (int field = 0; field < rows.width(); field++) {
            CellCodec codec = cells.fields().get(field);
            if ((!conditions || mayWrite(row, field, record))
                    && !codec.same(rows.data(), rows.at(row, field), record.data(), record.fieldAt(field))) {
                if (!differs) {
                    changes.update(row, record);
                    differs = true;
                }
                changes.change(row, field);
            }
        }
        if (!differs) {
            changes.leave(row, record);
        }
    }

    /** Whether a field of a stored record may become the row's value. */
    private boolean mayWrite(int row, int field, StoredRecord record) {
        Output output = outputs.get(field);
        if (output.leaveBlank() && rows.isNull(row, field)) {
            return false;
        }
        return switch (output.rule()) {
            case ALWAYS -> true;
            case ON_INSERT -> false;
            case IF_EMPTY -> cells.fields().get(field).isBlank(record.data(), record.fieldAt(field));
        };
    }

    /**
     * All that is stored was handed over: decides about rows for which there is nothing, or too much.
     *
     * @param sourceRow the number of a row in the source, for people
     * @return why rows can't be written, by row
     */
    public Map<Integer, Problem> finish(int[] which, IntToLongFunction sourceRow) {
        Map<Integer, Problem> problems = new TreeMap<>();
        for (int row : which) {
            if (ambiguous.get(row)) {
                problems.put(row, ambiguous(row));
            } else if (found.get(row)) {
                if (write.action() == Action.INSERT) {
                    unmet(row, ALREADY_THERE, problems);
                }
            } else {
                decideAbsent(row, problems);
            }
        }
        rejectSharedRecords(which, sourceRow, problems);
        problems.keySet().forEach(changes::forget);
        return problems;
    }

    private Problem ambiguous(int row) {
        return Problem.of(
                ProblemCode.KEY_AMBIGUOUS,
                "The target holds several records with the key " + shown(key(row)) + ".",
                "Remove the duplicates there, or use a key that is unique.");
    }

    /** The rows that are skipped, because their records are there, or are not, and the job says so. */
    public int[] skipped(int[] which) {
        return IntStream.of(which).filter(unmet::get).toArray();
    }

    /** Why a row is skipped, for people. */
    public String whySkipped() {
        return write.action() == Action.INSERT ? ALREADY_THERE : NOT_FOUND;
    }

    private void unmet(int row, String why, Map<Integer, Problem> problems) {
        if (write.skipsUnmet()) {
            unmet.set(row);
        } else if (why.equals(ALREADY_THERE)) {
            problems.put(
                    row,
                    Problem.of(
                            ProblemCode.ALREADY_THERE,
                            "The target holds a record with the key " + shown(key(row))
                                    + " already, and the job only inserts.",
                            "Correct the key, let the job upsert, or say already-there: skip."));
        } else {
            problems.put(
                    row,
                    Problem.of(
                            ProblemCode.NOT_FOUND,
                            "The target holds no record with the key " + shown(key(row))
                                    + ", and the job only updates.",
                            "Correct the key, let the job upsert, or say not-found: skip."));
        }
    }

    private void decideAbsent(int row, Map<Integer, Problem> problems) {
        switch (write.action()) {
            case UPDATE -> unmet(row, NOT_FOUND, problems);
            case DELETE -> changes.leaveAbsent(row);
            case INSERT, UPSERT, REPLACE, ISSUE -> decideNew(row, problems);
        }
    }

    private void decideNew(int row, Map<Integer, Problem> problems) {
        // a new record has nothing that a blank could leave
        for (int field = 0; conditions && field < rows.width(); field++) {
            Output output = outputs.get(field);
            if (output.leaveBlank() && !output.description().traits().mayBeCleared() && rows.isNull(row, field)) {
                problems.put(
                        row,
                        Problem.inField(
                                ProblemCode.REQUIRED_EMPTY,
                                output.description().name(),
                                "The record is new, and the field is required, but empty.",
                                ""));
                return;
            }
        }
        changes.insert(row);
    }

    /** Keys that differ to us can be one to the target (by its collation): two rows on one record are both rejected. */
    private void rejectSharedRecords(int[] which, IntToLongFunction sourceRow, Map<Integer, Problem> problems) {
        RecordIds seen = new RecordIds(changes, which.length);
        for (int row : which) {
            if (changes.idAt(row) < 0 || problems.containsKey(row) && ambiguous.get(row)) {
                continue;
            }
            int other = seen.add(row);
            if (other >= 0) {
                problems.put(row, repeated(row, sourceRow.applyAsLong(other)));
                problems.put(other, repeated(other, sourceRow.applyAsLong(row)));
            }
        }
    }

    private Problem repeated(int row, long otherRow) {
        return repeatedKey(key(row), "row " + otherRow);
    }

    /** The key of a row. */
    private Object[] key(int row) {
        return cells.key().stream()
                .map(field -> Objects.requireNonNull(
                        rows.value(row, field, cells.fields().get(field)), "a row that passed has a key"))
                .toArray();
    }

    /** The problem of a key that occurs in another row too; {@code other} is that row, for people. */
    public static Problem repeatedKey(Object[] key, String other) {
        return Problem.of(
                ProblemCode.KEY_REPEATED,
                "The key " + shown(key) + " stands in " + other + " too, so neither is written.",
                "Keep one of the rows in the source.");
    }

    /** A key for people. */
    public static String shown(Object[] key) {
        List<String> parts = new ArrayList<>();
        for (Object part : key) {
            parts.add(Values.shortened(String.valueOf(Values.text(part))));
        }
        return String.join(" · ", parts);
    }
}

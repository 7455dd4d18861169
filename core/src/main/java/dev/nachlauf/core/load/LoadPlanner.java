package dev.nachlauf.core.load;

import dev.nachlauf.core.job.JobDefinition.Action;
import dev.nachlauf.core.job.JobDefinition.WriteRule;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.step.WriteRow;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.Target.Stored;
import dev.nachlauf.core.system.Target.StoredRecord;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Decides row by row what has to be written: match by key, compare field by field. */
public final class LoadPlanner {
    private LoadPlanner() {}

    /** One decision per row, in order; {@code stored} answers for the rows' keys by the same index. */
    public static List<Decision> plan(PlannedWrite write, List<WriteRow> rows, Stored stored) {
        List<Decision> decisions = new ArrayList<>(rows.size());
        boolean masks =
                write.fields().stream().anyMatch(output -> output.rule() != WriteRule.ALWAYS || output.leaveBlank());
        for (int i = 0; i < rows.size(); i++) {
            decisions.add(decide(write, masks, rows.get(i), stored, i));
        }
        rejectSharedRecords(rows, decisions);
        return decisions;
    }

    private static Decision decide(PlannedWrite write, boolean masks, WriteRow row, Stored stored, int index) {
        Object[] key = java.util.Objects.requireNonNull(row.key(), "a row that passed has a key");
        return switch (stored.matches(index)) {
            case 0 ->
                write.action() == Action.UPDATE
                        ? new Decision.Reject(notFound(key))
                        : masks ? insert(write, row, key) : inserted(row, key);
            case 1 -> compare(write, masks, row, key, stored.record(index));
            default ->
                new Decision.Reject(Problem.of(
                        ProblemCode.KEY_AMBIGUOUS,
                        "The target holds several records with the key " + shown(key) + ".",
                        "Remove the duplicates there, or use a key that is unique."));
        };
    }

    private static Problem notFound(Object[] key) {
        return Problem.of(
                ProblemCode.NOT_FOUND,
                "The target holds no record with the key " + shown(key) + ", and the job only updates.",
                "Correct the key, or let the job upsert.");
    }

    private static Decision inserted(WriteRow row, Object[] key) {
        return new Decision.Write(new Change.Insert(row.number(), row.group(), key, null, row.values()));
    }

    /** A new record has nothing that a blank could leave. */
    private static Decision insert(PlannedWrite write, WriteRow row, Object[] key) {
        for (int field = 0; field < row.values().length; field++) {
            Output output = write.fields().get(field);
            if (row.values()[field] == null
                    && output.leaveBlank()
                    && !output.description().nullable()) {
                return new Decision.Reject(Problem.inField(
                        ProblemCode.REQUIRED_EMPTY,
                        output.description().name(),
                        "The record is new, and the field is required, but empty.",
                        ""));
            }
        }
        return inserted(row, key);
    }

    /** Whether a field of a stored record may become the row's value. */
    private static boolean mayWrite(Output output, @Nullable Object value, StoredRecord record, int field) {
        if (value == null && output.leaveBlank()) {
            return false;
        }
        return switch (output.rule()) {
            case ALWAYS -> true;
            case ON_INSERT -> false;
            case IF_EMPTY -> {
                Object stored = record.value(field);
                yield stored == null || "".equals(stored);
            }
        };
    }

    private static Decision compare(
            PlannedWrite write, boolean masks, WriteRow row, Object[] key, StoredRecord record) {
        @Nullable Object[] values = row.values();
        BitSet changed = null;
        BitSet kept = null;
        for (int field = 0; field < values.length; field++) {
            if (masks && !mayWrite(write.fields().get(field), values[field], record, field)) {
                kept = kept == null ? new BitSet(values.length) : kept;
                kept.set(field);
            } else if (!record.same(field, values[field])) {
                changed = changed == null ? new BitSet(values.length) : changed;
                changed.set(field);
            }
        }
        if (changed == null) {
            return new Decision.Leave(record.id());
        }
        @Nullable Object[] before = new Object[values.length];
        for (int field = changed.nextSetBit(0); field >= 0; field = changed.nextSetBit(field + 1)) {
            before[field] = record.value(field);
        }
        @Nullable Object[] after = values;
        if (kept != null) {
            // what is not to be written is sent as it stands there
            after = values.clone();
            for (int field = kept.nextSetBit(0); field >= 0; field = kept.nextSetBit(field + 1)) {
                after[field] = record.value(field);
            }
        }
        return new Decision.Write(
                new Change.Update(row.number(), row.group(), key, record.id(), record.mark(), before, after, changed));
    }

    /** Keys that differ to us can be one to the target (by its collation): two rows on one record are both rejected. */
    private static void rejectSharedRecords(List<WriteRow> rows, List<Decision> decisions) {
        Map<Object, Integer> seen = new HashMap<>();
        for (int i = 0; i < decisions.size(); i++) {
            Object id = idOf(decisions.get(i));
            Integer other = id == null ? null : seen.putIfAbsent(id, i);
            if (other != null) {
                decisions.set(i, repeated(rows.get(i), rows.get(other).row()));
                decisions.set(other, repeated(rows.get(other), rows.get(i).row()));
            }
        }
    }

    private static @Nullable Object idOf(Decision decision) {
        return switch (decision) {
            case Decision.Leave leave -> leave.id();
            case Decision.Write write -> write.change() instanceof Change.Update update ? update.id() : null;
            case Decision.Reject ignored -> null;
        };
    }

    private static Decision repeated(WriteRow row, long otherRow) {
        return new Decision.Reject(repeatedKey(Objects.requireNonNull(row.key()), "row " + otherRow));
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

package dev.nachlauf.core.load;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.Target.Stored;
import dev.nachlauf.core.system.Target.StoredRecord;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Decides row by row what has to be written: match by key, compare field by field. */
public final class LoadPlanner {
    private LoadPlanner() {}

    /** One decision per row, in order; {@code stored} answers for the rows' keys by the same index. */
    public static List<Decision> plan(List<TargetRow> rows, Stored stored) {
        List<Decision> decisions = new ArrayList<>(rows.size());
        for (int i = 0; i < rows.size(); i++) {
            decisions.add(decide(rows.get(i), stored, i));
        }
        rejectSharedRecords(rows, decisions);
        return decisions;
    }

    private static Decision decide(TargetRow row, Stored stored, int index) {
        Object[] key = java.util.Objects.requireNonNull(row.key(), "a row that passed has a key");
        long number = row.source().number();
        return switch (stored.matches(index)) {
            case 0 -> new Decision.Write(new Change.Insert(number, number, key, null, row.values()));
            case 1 -> compare(row, key, stored.record(index));
            default ->
                new Decision.Reject(Problem.of(
                        ProblemCode.KEY_AMBIGUOUS,
                        "The target holds several records with the key " + shown(key) + ".",
                        "Remove the duplicates there, or use a key that is unique."));
        };
    }

    private static Decision compare(TargetRow row, Object[] key, StoredRecord record) {
        @Nullable Object[] values = row.values();
        BitSet changed = null;
        for (int field = 0; field < values.length; field++) {
            if (!record.same(field, values[field])) {
                if (changed == null) {
                    changed = new BitSet(values.length);
                }
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
        long number = row.source().number();
        return new Decision.Write(
                new Change.Update(number, number, key, record.id(), record.mark(), before, values, changed));
    }

    /** Keys that differ to us can be one to the target (by its collation): two rows on one record are both rejected. */
    private static void rejectSharedRecords(List<TargetRow> rows, List<Decision> decisions) {
        Map<Object, Integer> seen = new HashMap<>();
        for (int i = 0; i < decisions.size(); i++) {
            Object id = idOf(decisions.get(i));
            Integer other = id == null ? null : seen.putIfAbsent(id, i);
            if (other != null) {
                decisions.set(i, repeated(rows.get(i), rows.get(other).source().number()));
                decisions.set(
                        other, repeated(rows.get(other), rows.get(i).source().number()));
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

    private static Decision repeated(TargetRow row, long otherRow) {
        return new Decision.Reject(repeatedKey(java.util.Objects.requireNonNull(row.key()), otherRow));
    }

    /** The problem of a key that occurs in another row too. */
    public static Problem repeatedKey(Object[] key, long otherRow) {
        return Problem.of(
                ProblemCode.KEY_REPEATED,
                "The key " + shown(key) + " stands in row " + otherRow + " too, so neither is written.",
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

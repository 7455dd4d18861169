package dev.nachlauf.core.step;

import dev.nachlauf.core.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What the steps and the maps made of a row: for each write that takes it, a key and values. */
public final class TargetRow {
    /** The reason of rows that no write takes. */
    public static final String NOT_TAKEN = "no write took it";

    private final FlowRow row;
    private final @Nullable WriteRow[] writes;
    private final List<Problem> problems;
    private final @Nullable String skipped;

    TargetRow(FlowRow row, @Nullable WriteRow[] writes, List<Problem> problems, @Nullable String skipped) {
        this.row = row;
        this.writes = writes;
        this.problems = problems;
        this.skipped = skipped;
    }

    /** The row behind the last step. */
    public FlowRow row() {
        return row;
    }

    /** What goes to a write; null where it doesn't take the row, or can't be mapped yet. */
    public @Nullable WriteRow write(int index) {
        return writes[index];
    }

    /** Puts in what goes to a write that could not be mapped before. */
    public void put(int index, WriteRow write) {
        writes[index] = write;
    }

    /** Why the row is rejected; empty where it is not. */
    public List<Problem> problems() {
        return problems;
    }

    /** Why the row is left out; null where it is not. */
    public @Nullable String skipped() {
        return skipped;
    }

    /** Whether the row goes to the target. */
    public boolean passed() {
        return skipped == null && problems.isEmpty();
    }

    /** Whether the row is rejected before it reaches the target. */
    public boolean rejected() {
        return skipped == null && !problems.isEmpty();
    }

    /** This row with one more problem. */
    public TargetRow rejected(Problem problem) {
        List<Problem> more = new ArrayList<>(problems);
        more.add(problem);
        return new TargetRow(row, writes, more, skipped);
    }

    /** About how many characters it holds, with those of larger values that the maps have made. */
    public long characters() {
        long sum = row.characters();
        for (WriteRow write : writes) {
            sum += write == null ? 0 : row.made(write.values());
        }
        return sum;
    }

    /** This row without what was made of it, rejected. */
    public TargetRow dropped(Problem problem) {
        return skipped == null ? new TargetRow(row, new WriteRow[writes.length], List.of(problem), null) : this;
    }

    /** The key of the first write that has one; null where there is none. */
    public Object @Nullable [] key() {
        for (WriteRow write : writes) {
            if (write != null && write.key() != null) {
                return write.key();
            }
        }
        return null;
    }
}

package dev.nachlauf.core.step;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceRow;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A row on its way through the steps. It may stand for several rows of the source, or several may stand for one of it:
 * {@code stands[0]} says for how many source rows it accounts, {@code stands[1]} for how many rows behind the first step
 * that changes their number, and so on. Over all rows of a run these add up to what was read and what each step made, so
 * no row is lost without a trace.
 */
public final class FlowRow {
    private static final long[] ONE = {1};
    private static final int LARGE = 256;

    private final long position;
    private final SourceRow source;
    private final @Nullable Object[] slots;
    private final long[] stands;
    private final List<Amount> amounts;
    private final List<Problem> problems = new ArrayList<>(0);
    private final List<Problem> warnings = new ArrayList<>(0);
    private int settledBy = NOBODY;
    private @Nullable String skipped;
    private long group;
    private boolean leads = true;
    private int generation;

    /** No step has settled the row. */
    static final int NOBODY = -1;

    FlowRow(long position, SourceRow source, @Nullable Object[] slots, long[] stands, List<Amount> amounts) {
        this.position = position;
        this.source = source;
        this.slots = slots;
        this.stands = stands;
        this.amounts = amounts;
        this.group = position;
    }

    /** A row as it comes from the source. */
    static FlowRow of(SourceRow source, @Nullable Object[] slots) {
        return of(source, slots, List.of());
    }

    /** A row as it comes from the source, with its figures. */
    static FlowRow of(SourceRow source, @Nullable Object[] slots, List<Amount> amounts) {
        return new FlowRow(source.number(), source, slots, ONE, amounts);
    }

    /** A row that a step made of others: it stands for one row of the next level. */
    static FlowRow made(
            long position, SourceRow source, @Nullable Object[] slots, long[] members, List<Amount> amounts) {
        long[] stands = Arrays.copyOf(members, members.length + 1);
        stands[members.length] = 1;
        return new FlowRow(position, source, slots, stands, amounts);
    }

    /** This row at another place of the order. */
    FlowRow at(long other) {
        FlowRow moved = new FlowRow(other, source, slots, stands, amounts);
        moved.problems.addAll(problems);
        moved.warnings.addAll(warnings);
        moved.settledBy = settledBy;
        moved.skipped = skipped;
        moved.group = group == position ? other : group;
        moved.leads = leads;
        moved.generation = generation;
        return moved;
    }

    /** Its place in the order; no two rows of a run share one. */
    public long position() {
        return position;
    }

    /** The row of the source that it comes from; the first one where it stands for several. */
    public SourceRow source() {
        return source;
    }

    /** Its values. */
    public @Nullable Object[] slots() {
        return slots;
    }

    /** For how many rows of each level it stands. */
    public long[] stands() {
        return stands;
    }

    /** The figures of the source rows for which it accounts, one for each that the plan adds up; none adds nothing. */
    public List<Amount> amounts() {
        return amounts;
    }

    /**
     * Whether it came through the steps above that change the number of rows. One that didn't has none of the fields that
     * are made there, so nothing below may judge it.
     *
     * @param level how many such steps there are
     */
    boolean reached(int level) {
        return stands.length > level;
    }

    /** Why it is rejected; empty where it is not. */
    public List<Problem> problems() {
        return problems;
    }

    /** What is to be said beside its outcome. */
    public List<Problem> warnings() {
        return warnings;
    }

    /** Why it is left out; null where it is not. */
    public @Nullable String skipped() {
        return skipped;
    }

    /** The step that skipped it or found its first problem, from 0; -1 for none. */
    public int settledBy() {
        return settledBy;
    }

    /**
     * About how many characters it holds: those of its cells, and those of larger values that steps have made. Small ones
     * are bounded by the number of fields.
     */
    public long characters() {
        return source.characters() + made(slots);
    }

    /** The characters of larger values that are none of the row's cells. */
    long made(@Nullable Object[] values) {
        long sum = 0;
        for (Object value : values) {
            if (value instanceof String text && text.length() >= LARGE && !source.holds(text)) {
                sum += text.length();
            }
        }
        return sum;
    }

    /** Rows of one group stand together. */
    public long group() {
        return group;
    }

    /** Whether the row stands for its group, in a write that takes one row of each. */
    public boolean leads() {
        return leads;
    }

    /** Rows of a later generation refer to rows of an earlier one. */
    public int generation() {
        return generation;
    }

    /** Whether it goes on. */
    public boolean isAlive() {
        return skipped == null && problems.isEmpty();
    }

    void skip(int step, String reason) {
        skipped = reason;
        settledBy = step;
        problems.clear();
    }

    void reject(int step, Problem problem) {
        if (problems.isEmpty()) {
            settledBy = step;
        }
        problems.add(problem);
    }

    void joinGroup(long leader) {
        group = leader;
        leads = leader == position;
    }

    /** Says whether the row stands for its group, where that isn't the one that the group is named by. */
    void lead(boolean does) {
        leads = does;
    }

    void inGeneration(int number) {
        generation = number;
    }

    void settled(int step, @Nullable String reason) {
        settledBy = step;
        skipped = reason;
    }
}

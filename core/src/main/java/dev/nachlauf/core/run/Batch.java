package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Fate;
import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.record.TextRows;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.WriteRow;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * Consecutive rows that are written together, from here on as bytes. Groups are never cut. Rows are known by their place
 * in the batch, from 0; what is the same for almost all of them is kept for the others only.
 */
final class Batch {
    /** For how many rows of the source a row accounts, and where it stands, in this order. */
    enum Fact {
        NUMBER,
        POSITION,
        GROUP,
        LINE,
        STANDS,
        PLACE
    }

    private static final int FACTS = Fact.values().length;

    private final int number;
    private final long start;
    private final int size;
    private final long[] facts;
    private final List<Origin> places;
    private final TextRows raw;
    private final Map<Integer, Settled> settled;
    private final Map<Integer, List<Problem>> warnings;
    private final List<Taken> taken;
    private final List<FlowRow> flow;
    private final List<StepCount> steps;
    private final boolean level;

    /**
     * A row that goes to no write.
     *
     * @param fate where its way ended
     * @param reading whether its way ended before the first step that changes the number of rows, so that it counts as a
     *     row of the source
     * @param skipped why it is left out; null where it is rejected
     * @param problems why it is rejected; empty where it is left out
     * @param key the first whole key that it has; null where there is none
     */
    record Settled(
            Fate fate, boolean reading, @Nullable String skipped, List<Problem> problems, Object @Nullable [] key) {}

    /**
     * What a write takes of a batch.
     *
     * @param rows the rows that it takes, in order
     * @param values their values as the target spells them; null where something of them is still to be found
     * @param open the same where something is still to be found; empty where nothing is
     */
    record Taken(int[] rows, @Nullable RowBlock values, List<WriteRow> open) {}

    Batch(
            int number,
            long start,
            long[] facts,
            List<Origin> places,
            TextRows raw,
            Map<Integer, Settled> settled,
            Map<Integer, List<Problem>> warnings,
            List<Taken> taken,
            List<FlowRow> flow,
            List<StepCount> steps,
            boolean level) {
        this.number = number;
        this.start = start;
        this.size = facts.length / FACTS;
        this.facts = facts;
        this.places = places;
        this.raw = raw;
        this.settled = settled;
        this.warnings = warnings;
        this.taken = taken;
        this.flow = flow;
        this.steps = steps;
        this.level = level;
    }

    int number() {
        return number;
    }

    int size() {
        return size;
    }

    private long fact(int row, Fact fact) {
        return facts[row * FACTS + fact.ordinal()];
    }

    /** The number of the row in the source, for people. */
    long sourceRow(int row) {
        return fact(row, Fact.NUMBER);
    }

    /** What tells the row from others of the run. */
    long position(int row) {
        return fact(row, Fact.POSITION);
    }

    /** Rows of one group stand together. */
    long group(int row) {
        return fact(row, Fact.GROUP);
    }

    /** The line of the text or the row of the sheet. */
    long line(int row) {
        return fact(row, Fact.LINE);
    }

    /** For how many rows of the source the row accounts. */
    long stands(int row) {
        return fact(row, Fact.STANDS);
    }

    /** The file and the sheet in which the row stands; the line is that of another row. */
    Origin place(int row) {
        return places.get((int) fact(row, Fact.PLACE));
    }

    /** Where exactly the row stands. */
    Origin origin(int row) {
        Origin place = place(row);
        return new Origin(place.file(), place.sheet(), line(row), raw.path(row), place.addresses());
    }

    /** The row as it was read. */
    List<@Nullable String> cells(int row) {
        return raw.cells(row);
    }

    /** Which rows it holds. */
    Chunk.Range range() {
        return new Chunk.Range(sourceRow(0), sourceRow(size - 1), start, size);
    }

    /** Whether the rows behind the steps are those of the source. */
    boolean isLevel() {
        return level;
    }

    /** For how many rows of the source the batch accounts. */
    long sourceRows() {
        long sum = 0;
        for (int row = 0; row < size; row++) {
            sum += stands(row);
        }
        return sum;
    }

    /** Whether a row goes to the writes. */
    boolean passed(int row) {
        return settled.isEmpty() || !settled.containsKey(row);
    }

    /** What is known of a row that goes to no write; null where it goes on. */
    @Nullable
    Settled settled(int row) {
        return settled.isEmpty() ? null : settled.get(row);
    }

    /** What is to be said of a row beside its outcome. */
    List<Problem> warnings(int row) {
        return warnings.isEmpty() ? List.of() : warnings.getOrDefault(row, List.of());
    }

    /** What a write takes. */
    Taken taken(int write) {
        return taken.get(write);
    }

    /** The key of a row of which something is still to be found; null where that is the key itself. */
    Object @Nullable [] openKey(int row) {
        for (Taken one : taken) {
            int at = one.open().isEmpty() ? -1 : Arrays.binarySearch(one.rows(), row);
            if (at >= 0 && one.open().get(at).key() != null) {
                return one.open().get(at).key();
            }
        }
        return null;
    }

    /** Whether a write still needs the values that the steps made. */
    boolean keepsFlow() {
        return !flow.isEmpty();
    }

    /** The row with the values that the steps made; only where a write still needs them. */
    FlowRow flow(int row) {
        return Objects.requireNonNull(flow.get(row), "a plan that needs the row later keeps it");
    }

    /** All rows with the values that the steps made; empty where no write needs them. */
    List<FlowRow> flow() {
        return flow;
    }

    /** One count per step, and one for the maps behind them. */
    List<StepCount> steps() {
        return steps;
    }
}

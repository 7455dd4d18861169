package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.RowFlow;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.system.Cells;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * The pass that writes: rows behind the steps into batches, cut by what they hold. A batch that is done already keeps the
 * rows that it was written from, however batches are cut now; it is not given again, but has to be the same rows: would
 * another one stand in its place, rows would be lost or written twice.
 */
final class BatchReader implements AutoCloseable {
    private static final long MOST_CHARACTERS = 8L * 1024 * 1024;
    /** A row beyond this is rejected: two of them fill a batch. */
    static final long LARGEST_ROW = MOST_CHARACTERS / 2;

    private final Plan plan;
    private final StepTally tally;
    private final List<Cells> cells;
    private final RowFlow rows;
    private final Mapper mapper;
    private final Repeats repeats;
    private final NavigableMap<Integer, Chunk.Head> done;
    private final int batchRows;
    /** Rows of the source behind this one are not given. */
    private final long until;

    private @Nullable FlowRow ahead;
    private int number;
    /** How many rows were given to batches. */
    private long given;

    /**
     * Begins at the first row.
     *
     * @param cells how each write's target spells its records
     * @param done the heads of the batches that are done already, by their number
     * @param until the last row of the source that is given, with those that belong together with it
     */
    BatchReader(
            Plan plan,
            List<Cells> cells,
            RowFlow rows,
            Repeats repeats,
            Map<Integer, Chunk.Head> done,
            int batchRows,
            long until) {
        this.until = until;
        this.plan = plan;
        this.tally = new StepTally(plan);
        this.cells = cells;
        this.rows = rows;
        this.mapper = new Mapper(plan);
        this.repeats = repeats;
        this.done = new TreeMap<>(done);
        this.batchRows = batchRows;
        this.ahead = rows.next();
    }

    /** The next batch that is not done; null at the end. */
    @Nullable
    Batch next() {
        while (ahead != null && ahead.source().number() <= until) {
            skipEmptyNumbers();
            Chunk.Head before = done.get(number);
            Batch batch = cut(end(before));
            given += batch.size();
            number++;
            if (before == null) {
                return batch;
            }
            requireSame(batch, before);
        }
        if (ahead == null) {
            requireAllSeen();
        }
        return null;
    }

    /** Rows that were cut into more batches once may fill fewer now. */
    private void skipEmptyNumbers() {
        Map.Entry<Integer, Chunk.Head> next = done.ceilingEntry(number);
        if (next != null
                && next.getValue().range().rows() > 0
                && next.getValue().range().start() == given) {
            number = next.getKey();
        }
    }

    /**
     * Where a batch ends.
     *
     * @param at as many rows will have been given then; -1 for any
     * @param only nothing else ends it
     */
    private record End(long at, boolean only) {
        private static final End ANYWHERE = new End(-1, false);
    }

    /** A done batch ends where it ended; another one before the next done one, of which the number has to be free. */
    private End end(Chunk.@Nullable Head before) {
        if (before != null) {
            return before.range().rows() == 0
                    ? End.ANYWHERE
                    : new End(given + before.range().rows(), true);
        }
        Map.Entry<Integer, Chunk.Head> next = done.higherEntry(number);
        return next == null || next.getValue().range().rows() == 0
                ? End.ANYWHERE
                : new End(next.getValue().range().start(), number + 1 == next.getKey());
    }

    private Batch cut(End end) {
        BatchBuilder batch = new BatchBuilder(plan, tally, cells, number, given, batchRows);
        long characters = 0;
        FlowRow row = ahead;
        while (row != null) {
            TargetRow mapped = bounded(repeats.checked(mapper.map(row)));
            batch.add(mapped);
            characters += mapped.characters();
            FlowRow following = rows.next();
            ahead = following;
            boolean full = batch.size() >= batchRows || characters >= MOST_CHARACTERS;
            boolean ends = following == null
                    || given + batch.size() == end.at
                    || !end.only && endsBetween(row, following, full);
            row = ends ? null : following;
        }
        return batch.build();
    }

    /** A group stays together; children wait until their parents are written. */
    private boolean endsBetween(FlowRow row, FlowRow following, boolean full) {
        boolean ends = full || following.source().number() > until;
        return following.generation() != row.generation() || ends && following.group() != row.group();
    }

    private static TargetRow bounded(TargetRow row) {
        return row.characters() <= LARGEST_ROW
                ? row
                : row.dropped(Problem.of(
                        ProblemCode.ROW_TOO_LARGE,
                        "The row and what the job makes of it hold more than " + LARGEST_ROW + " characters.",
                        "Shorten the values, or map fewer of them."));
    }

    private static void requireSame(Batch batch, Chunk.Head done) {
        Chunk.Range now = batch.range();
        Chunk.Range before = done.range();
        boolean sameRows = now.first() == before.first()
                && now.last() == before.last()
                && batch.sourceRows() == done.counts().read();
        if (!sameRows || before.rows() > 0 && !now.equals(before)) {
            throw cutOtherwise("Batch " + done.batch() + " was written from rows " + before.first() + " to "
                    + before.last() + " and would now be rows " + now.first() + " to " + now.last() + ".");
        }
    }

    private void requireAllSeen() {
        done.keySet().stream().filter(batch -> batch >= number).findFirst().ifPresent(batch -> {
            throw cutOtherwise("Batch " + batch + " was written, but the rows end before it.");
        });
    }

    private static CannotGoOn cutOtherwise(String sentence) {
        return new CannotGoOn(Problem.of(
                ProblemCode.INTERNAL,
                "The rows are no longer those that were written. " + sentence,
                "Nothing more was written. This is a defect of Nachlauf; start the job again."));
    }

    @Override
    public void close() {
        rows.close();
    }
}

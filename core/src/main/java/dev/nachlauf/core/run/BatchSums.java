package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Fate;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.stream.LongStream;

/** Adds the rows of a batch up: what became of them on the way to the writes and in each of them. */
final class BatchSums {
    private static final int OUTCOMES = Outcome.values().length;

    private final LedgerWrites writes;
    private final int main;
    private final long[][] outcomes;
    private final long[][] fields;
    private final SourceRows rejectedSources = new SourceRows(Long.MAX_VALUE);
    private final SourceRows rejectedBefore = new SourceRows(Long.MAX_VALUE);
    private long read;
    private long skipped;
    private long rejected;
    private long warned;
    private long passed;
    private long untaken;
    private long elsewhere;
    private long left;

    BatchSums(LedgerWrites writes) {
        this.writes = writes;
        this.main = writes.main();
        outcomes = new long[writes.count()][OUTCOMES];
        fields = new long[writes.count()][];
        for (int w = 0; w < fields.length; w++) {
            fields[w] = new long[writes.get(w).fields().size()];
        }
    }

    /** A row came to the batch, and its way ended somewhere. */
    void came(BatchInHand hand, int row, Fate fate) {
        Batch batch = hand.batch();
        long stands = batch.stands(row);
        read += stands;
        if (fate.passed()) {
            passed++;
        } else if (fate instanceof Fate.Untaken) {
            left++;
            skipped += batch.isLevel() ? stands : 0;
        } else {
            settled(Objects.requireNonNull(batch.settled(row)), stands);
        }
        if (!hand.isRejected(row)) {
            warned += hand.isWarned(row) ? 1 : 0;
            return;
        }
        rejectedSources.add(batch.sourceRow(row), stands);
        if (!fate.passed()) {
            rejectedBefore.add(batch.sourceRow(row), stands);
        }
    }

    /** A row that came to no write counts as one of the source, or as one that a step made. */
    private void settled(Batch.Settled settled, long stands) {
        if (!settled.reading()) {
            elsewhere += settled.skipped() == null ? 1 : 0;
        } else if (settled.skipped() != null) {
            skipped += stands;
        } else {
            rejected += stands;
        }
    }

    /** A row that came to the writes is rejected: by the main one, before any could take it, or elsewhere. */
    void refused(boolean byMain, boolean taken) {
        if (!taken) {
            // the main one stands for all
            outcome(main, Outcome.REJECTED);
            untaken++;
        } else if (!byMain) {
            elsewhere++;
        }
    }

    /** What became of a row in a write. */
    void outcome(int write, Outcome outcome) {
        outcomes[write][outcome.ordinal()]++;
    }

    /** How many rows were refused before any write could take them. */
    long refusedUntaken() {
        return untaken;
    }

    /** A field of a record was changed. */
    void changed(int write, BitSet changed) {
        for (int field = changed.nextSetBit(0); field >= 0; field = changed.nextSetBit(field + 1)) {
            fields[write][field]++;
        }
    }

    /**
     * Makes sure, before anything is committed, that the batch balances: every row that came out of the maps came to the
     * writes, each step gave the next what it let through, and each write has an outcome for every row that it took.
     *
     * @throws CannotGoOn where a row is lost or told twice; that is a defect
     */
    void requireBalance(BatchInHand hand, List<Long> taken) {
        Batch batch = hand.batch();
        List<StepCount> steps = steps(batch);
        for (int i = 0; i + 1 < steps.size(); i++) {
            require(steps.get(i).out(), steps.get(i + 1).in(), "came from step " + (i + 1) + " to the next");
        }
        require(steps.getLast().out(), passed, "came from the maps to the writes");
        require(batch.sourceRows(), read, "were read");
        for (int w = 0; w < taken.size(); w++) {
            require(taken.get(w), LongStream.of(outcomes[w]).sum(), "were taken by write " + (w + 1));
        }
    }

    /** What became of rows in the steps and the maps of a batch; what no write took counts as left out by the maps. */
    List<StepCount> steps(Batch batch) {
        if (left == 0) {
            return batch.steps();
        }
        List<StepCount> steps = new ArrayList<>(batch.steps());
        StepCount maps = steps.removeLast();
        steps.add(new StepCount(maps.in(), maps.out() - left, maps.skipped() + left, maps.rejected()));
        return steps;
    }

    /**
     * Makes sure that a chunk which is told otherwise accounts for the same rows in each write.
     *
     * @throws CannotGoOn where a row is lost or told twice; that is a defect
     */
    void requireTaken(Chunk.Head before) {
        require(before.counts().taken(), main().taken(), "were taken by the main write");
        List<Counts> all = new ArrayList<>(before.tally().writes());
        int first = all.isEmpty() ? writes.sourced() : 0;
        all.addAll(before.tally().removals());
        for (int i = 0; i < all.size(); i++) {
            int w = first + i;
            require(all.get(i).taken(), counts(w).taken(), "were taken by write " + (w + 1));
        }
    }

    private static void require(long expected, long found, String what) {
        if (expected != found) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.BALANCE_BROKEN,
                    "Of a batch, " + expected + " rows " + what + ", but " + found + " are accounted for.",
                    "Nothing of the batch was written. This is a defect of Nachlauf; please report it."));
        }
    }

    /** What became of all rows: on the way to the writes, and in the main one. */
    Counts counts() {
        return Counts.reading(read, skipped, rejected, warned).plus(main());
    }

    /** What became of rows in the main write. */
    Counts main() {
        return counts(main);
    }

    private Counts counts(int write) {
        long[] of = outcomes[write];
        return Counts.taken(
                of[Outcome.INSERTED.ordinal()],
                of[Outcome.UPDATED.ordinal()],
                of[Outcome.UNCHANGED.ordinal()],
                of[Outcome.DELETED.ordinal()],
                of[Outcome.ISSUED.ordinal()],
                of[Outcome.REJECTED.ordinal()]);
    }

    /** The outcomes of each write; none where there is one write only. */
    List<Counts> writes() {
        List<Counts> counts = new ArrayList<>();
        int sourced = writes.sourced();
        for (int w = 0; sourced > 1 && w < sourced; w++) {
            counts.add(counts(w));
        }
        return counts;
    }

    /** What became of records that the source no longer has. */
    List<Counts> removals() {
        List<Counts> counts = new ArrayList<>();
        for (int w = writes.sourced(); w < outcomes.length; w++) {
            counts.add(counts(w));
        }
        return counts;
    }

    /** Rejected rows that the main write did not refuse, though they came to the writes. */
    long rejectedElsewhere() {
        return elsewhere;
    }

    /** Source rows of which something was rejected, each counted once. */
    long rejectedSources() {
        return rejectedSources.sum();
    }

    /** Those of them of which nothing was rejected before a target was asked. */
    long refusedSources(BatchInHand hand) {
        SourceRows refused = new SourceRows(Long.MAX_VALUE);
        Batch batch = hand.batch();
        for (int row : hand.refused()) {
            if (!rejectedBefore.has(batch.sourceRow(row))) {
                refused.add(batch.sourceRow(row), batch.stands(row));
            }
        }
        return refused.sum();
    }

    /** How often each field was changed; those of a write other than the main one with its name. */
    Map<String, Long> fieldCounts() {
        Map<String, Long> counts = new TreeMap<>();
        for (int w = 0; w < fields.length; w++) {
            LedgerWrites.Write write = writes.get(w);
            String prefix = w == main ? "" : write.name() + ".";
            for (int field = 0; field < fields[w].length; field++) {
                if (fields[w][field] > 0) {
                    counts.put(prefix + write.fields().get(field), fields[w][field]);
                }
            }
        }
        return counts;
    }
}

package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.Target.Token;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.SortedMap;
import java.util.stream.Collectors;

/** The ledger of a batch of which the lines are known already, not its rows. */
final class LinesLedger {
    private final LedgerWrites writes;
    private final List<Cells> cells;

    /** @param cells how each write's target spells its records */
    LinesLedger(LedgerWrites writes, List<Cells> cells) {
        this.writes = writes;
        this.cells = cells;
    }

    /** A chunk, unpacked. */
    ChunkLines unpack(Chunk chunk) {
        return ChunkCodec.unpack(chunk, writes, cells);
    }

    /** The lines of a chunk. */
    List<LedgerRow> rows(Chunk chunk) {
        return unpack(chunk).rows();
    }

    /**
     * The head of a batch of which only the lines are known, each of which changes a record.
     *
     * @param rows how many rows of the source they stand for
     */
    Chunk.Head head(int batch, Chunk.Range range, List<LedgerRow> lines, long rows) {
        BatchSums sums = sums(lines);
        return new Chunk.Head(
                batch,
                range,
                Counts.reading(rows, 0, 0, 0).plus(sums.main()),
                new Tally(List.of(), sums.writes(), sums.removals(), 0, 0, 0),
                sums.fieldCounts(),
                Collections.emptySortedMap(),
                Chunk.State.DONE);
    }

    /**
     * A planned batch without some of its rows.
     *
     * @param rows its lines, in which each row that is left out is one skipped line
     * @param left how many are left out
     * @param reading whether rows behind the steps are those of the source
     */
    ChunkLines without(ChunkLines planned, List<LedgerRow> rows, long left, boolean reading) {
        Chunk.Head head = planned.head();
        Counts read = head.counts();
        BatchSums sums = sums(rows);
        List<StepCount> steps = new ArrayList<>(head.tally().steps());
        StepCount maps = steps.removeLast();
        steps.add(new StepCount(maps.in(), maps.out() - left, maps.skipped() + left, maps.rejected()));
        Tally tally = head.tally();
        Chunk.Head now = new Chunk.Head(
                head.batch(),
                head.range(),
                Counts.reading(read.read(), read.skipped() + (reading ? left : 0), read.rejected(), read.warned())
                        .plus(sums.main()),
                new Tally(steps, sums.writes(), sums.removals(), tally.elsewhere(), tally.sources(), tally.refused()),
                sums.fieldCounts(),
                head.tokens(),
                head.state());
        return new ChunkLines(now, planned.cells(), rows, planned.rejects());
    }

    private BatchSums sums(List<LedgerRow> lines) {
        BatchSums sums = new BatchSums(writes);
        for (LedgerRow line : lines) {
            if (line.passed()) {
                sums.outcome(line.write(), line.outcome());
            }
            if (line.outcome() == Outcome.UPDATED) {
                sums.changed(line.write(), line.changed());
            }
        }
        return sums;
    }

    /** How many rows there are of which something is said since they were written, and of which nothing was said before. */
    private static long newlyWarned(ChunkLines meant, List<LedgerRow> rows) {
        Set<Long> before = warned(meant.rows());
        return warned(rows).stream().filter(row -> !before.contains(row)).count();
    }

    private static Set<Long> warned(List<LedgerRow> rows) {
        return rows.stream()
                .filter(row -> row.wrote() && !row.note().isEmpty())
                .map(LedgerRow::position)
                .collect(Collectors.toSet());
    }

    /**
     * The chunk of a batch of which more rows are refused than its lines say.
     *
     * @param rows its lines as they are now
     * @param more the rejects that it did not have
     */
    Chunk corrected(ChunkLines meant, List<LedgerRow> rows, List<Reject> more, SortedMap<Integer, Token> tokens) {
        Chunk.Head before = meant.head();
        LedgerBlock lines = new LedgerBlock(meant.cells());
        BatchSums sums = sums(rows);
        Set<Long> refusedByMain = new HashSet<>();
        for (LedgerRow row : rows) {
            lines.add(row);
            if (row.outcome() == Outcome.REJECTED && row.write() == writes.main()) {
                refusedByMain.add(row.position());
            }
        }
        sums.requireTaken(before);
        long elsewhere = more.stream()
                .filter(reject -> reject.number() > 0 && !refusedByMain.contains(reject.position()))
                .count();
        long sources = more.stream()
                .map(Reject::number)
                .filter(number -> number > 0)
                .distinct()
                .count();
        Counts read = before.counts();
        Chunk.Head head = new Chunk.Head(
                before.batch(),
                before.range(),
                Counts.reading(read.read(), read.skipped(), read.rejected(), read.warned() + newlyWarned(meant, rows))
                        .plus(sums.main()),
                new Tally(
                        before.tally().steps(),
                        sums.writes(),
                        sums.removals(),
                        before.tally().elsewhere() + elsewhere,
                        before.tally().sources() + sources,
                        before.tally().refused() + sources),
                sums.fieldCounts(),
                tokens,
                BatchLedger.state(tokens));
        List<Reject> rejects = new ArrayList<>(meant.rejects());
        rejects.addAll(more);
        return new Chunk(head, lines.pack(), ChunkCodec.packRejects(rejects));
    }
}

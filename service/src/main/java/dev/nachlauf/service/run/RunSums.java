package dev.nachlauf.service.run;

import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.run.Chunk;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * What the ledger of a run adds up to.
 *
 * @param tally the steps and the further writes, without what is in doubt
 * @param changedFields how often each field was changed by updates
 */
public record RunSums(RunTotals totals, Tally tally, Map<String, Long> changedFields) {
    /** Of a run that has no batch yet. */
    static final RunSums NONE = new RunSums(RunTotals.NONE, Tally.NONE, Map.of());

    /** The sums of a whole ledger. */
    public static RunSums of(List<Chunk.Head> chunks) {
        RunSums sums = NONE;
        for (Chunk.Head chunk : chunks) {
            sums = sums.plus(chunk);
        }
        return sums;
    }

    /** With a batch more; of one that is in doubt only that it is. */
    public RunSums plus(Chunk.Head chunk) {
        return chunk.state().isKnown()
                ? plusKnown(chunk)
                : new RunSums(inDoubt(chunk.counts().read()), tally, changedFields);
    }

    /** After a batch that was in doubt turned out to be written. */
    public RunSums settled(Chunk.Head chunk) {
        return new RunSums(inDoubt(-chunk.counts().read()), tally, changedFields).plusKnown(chunk);
    }

    /** With another chunk for a batch that was in doubt. */
    public RunSums replaced(Chunk.Head before, Chunk.Head chunk) {
        return new RunSums(inDoubt(-before.counts().read()), tally, changedFields).plus(chunk);
    }

    private RunTotals inDoubt(long more) {
        return new RunTotals(totals.counts(), totals.elsewhere(), totals.inDoubt() + more);
    }

    private RunSums plusKnown(Chunk.Head chunk) {
        Map<String, Long> fields = new TreeMap<>(changedFields);
        chunk.fieldCounts().forEach((field, count) -> fields.merge(field, count, Long::sum));
        Tally sum = tally.plus(chunk.tally());
        return new RunSums(
                new RunTotals(totals.counts().plus(chunk.counts()), sum.elsewhere(), totals.inDoubt()), sum, fields);
    }
}

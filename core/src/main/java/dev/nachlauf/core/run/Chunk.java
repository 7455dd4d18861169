package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.system.Target.Token;
import java.util.Collections;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * The ledger of one batch.
 *
 * @param rows the ledger's lines, packed by {@link ChunkCodec}
 * @param rejects the rejects, packed likewise
 */
public record Chunk(Head head, byte[] rows, byte[] rejects) {
    /** The same, of which nothing is sent. */
    Chunk planned() {
        return new Chunk(head.in(State.PLANNED), rows, rejects);
    }

    /**
     * What can be known of a chunk without unpacking it.
     *
     * @param range its rows
     * @param tally steps, and writes beside the main one
     * @param fieldCounts how often each field was changed; those of a write other than the main one with its name
     * @param tokens how to ask each connection whether the batch was committed, where that is not known yet; connections
     *     are counted from 0 in the order in which the writes name them
     */
    public record Head(
            int batch,
            Range range,
            Counts counts,
            Tally tally,
            Map<String, Long> fieldCounts,
            SortedMap<Integer, Token> tokens,
            State state) {
        public Head {
            fieldCounts = Map.copyOf(fieldCounts);
            tokens = Collections.unmodifiableSortedMap(new TreeMap<>(tokens));
        }

        /** The number of its first row in the source. */
        public long firstRow() {
            return range.first;
        }

        /** The number of its last row in the source. */
        public long lastRow() {
            return range.last;
        }

        /** Whether the batch has rejects. */
        public boolean hasRejects() {
            return tally.elsewhere() > 0
                    || counts.rejected() > 0
                    || tally.outcomes(counts).stream().anyMatch(write -> write.refused() > 0);
        }

        /** The same in another state. */
        public Head in(State other) {
            return new Head(batch, range, counts, tally, fieldCounts, tokens, other);
        }
    }

    /**
     * Which rows a batch holds.
     *
     * @param first the number of the first one in the source
     * @param last the number of the last one there
     * @param start how many rows came to the batches before it
     * @param rows how many it holds; 0 where an earlier version did not say, which leaves the start open too
     */
    public record Range(long first, long last, long start, int rows) {
        /** Where the next batch begins. */
        long end() {
            return start + rows;
        }
    }

    /** What is known of a batch in the target. */
    public enum State {
        /** Its counts are what is planned; nothing of it was sent. */
        PLANNED,
        /** Saved just before the target's commit, or before records are sent one by one. */
        PENDING,
        DONE;

        /** Whether the counts say what became of the rows, or, in a run that writes nothing, what would. */
        public boolean isKnown() {
            return this != PENDING;
        }
    }
}

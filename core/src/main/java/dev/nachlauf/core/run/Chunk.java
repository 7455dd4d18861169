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
     * @param tally steps, and writes beside the main one
     * @param fieldCounts how often each field was changed; those of a write other than the main one with its name
     * @param tokens how to ask each connection whether the batch was committed, where that is not known yet; connections
     *     are counted from 0 in the order in which the writes name them
     */
    public record Head(
            int batch,
            long firstRow,
            long lastRow,
            Counts counts,
            Tally tally,
            Map<String, Long> fieldCounts,
            SortedMap<Integer, Token> tokens,
            State state) {
        public Head {
            fieldCounts = Map.copyOf(fieldCounts);
            tokens = Collections.unmodifiableSortedMap(new TreeMap<>(tokens));
        }

        /** The same in another state. */
        public Head in(State other) {
            return new Head(batch, firstRow, lastRow, counts, tally, fieldCounts, tokens, other);
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

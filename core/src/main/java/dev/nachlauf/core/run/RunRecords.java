package dev.nachlauf.core.run;

import java.util.List;

/**
 * What a run needs kept. Every method is one transaction of its own, which first makes sure that this process still owns
 * the run: {@link Fenced} means that another one has taken it over, and nothing was written.
 */
public interface RunRecords {
    /** The heads of all chunks of this run, by batch. */
    List<Chunk.Head> chunks();

    /** A whole chunk. */
    Chunk chunk(int batch);

    /** Keeps a chunk, and marks the earlier batches in {@code settled} as done. */
    void save(Chunk chunk, List<Integer> settled);

    /** Marks batches as done: their rejects become visible with the same transaction. */
    void settled(List<Integer> batches);

    /** Forgets the chunk of a batch that was rolled back. */
    void drop(int batch);

    /** Keeps a chunk in the place of the one that its batch had. */
    void replace(Chunk chunk);

    /** Another process has taken the run over. */
    final class Fenced extends RuntimeException {
        private static final long serialVersionUID = 1L;

        public Fenced() {
            super("another process has taken the run over", null, false, false);
        }
    }
}

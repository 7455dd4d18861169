package dev.nachlauf.core.run;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What a run needs kept. Every method is one transaction of its own, which first makes sure that this process still owns
 * the run: {@link Fenced} means that another one has taken it over, and nothing was written.
 */
public interface RunRecords extends LedgerChunks {
    /** Keeps a chunk, and marks the earlier batches in {@code settled} as done. */
    void save(Chunk chunk, List<Integer> settled);

    /** Marks batches as done: their rejects become visible with the same transaction. */
    void settled(List<Integer> batches);

    /** Forgets the chunk of a batch that was rolled back. */
    void drop(int batch);

    /** Keeps a chunk in the place of the one that its batch had. */
    void replace(Chunk chunk);

    /**
     * What the steps made of the rows, where an attempt has adopted it.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn where it is no longer as it was and batches were written from it
     */
    Optional<Path> shaped();

    /** Makes a complete file what the steps made of the rows, for this attempt and all later ones. */
    void adopt(Path file);

    /** Shows rejects of rows that are not written yet, while the run is held because of them; others are forgotten. */
    void foresee(List<Reject> rejects);

    /** What each connection was when the run wrote to it first, by its name. */
    Map<String, String> identities();

    /** Notes what a connection is. */
    void identify(String connection, String identity);

    /** The sessions that this attempt and earlier ones have opened, by the name of the connection. */
    Map<String, List<String>> sessions();

    /** Notes the sessions of this attempt in place of all others. */
    void openedSessions(Map<String, List<String>> sessions);

    /** Another process has taken the run over. */
    final class Fenced extends RuntimeException {
        private static final long serialVersionUID = 1L;

        public Fenced() {
            super("another process has taken the run over", null, false, false);
        }
    }
}

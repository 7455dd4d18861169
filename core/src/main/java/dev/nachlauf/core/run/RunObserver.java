package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Counts;

/** Watches and steers a run. All methods are called from the run's own threads and must not wait long. */
public interface RunObserver {
    /** Whether somebody wants the run to end after the batch in hand. Asked for every row, so it must cost nothing. */
    boolean stopRequested();

    /** Targets were opened; {@code abort} ends what waits for them, from another thread. */
    void opened(Runnable abort);

    /** So many rows of the source have been looked at before anything is written. */
    void surveyed(long rows);

    /** The survey is done: the source has so many rows. */
    void writing(long rows);

    /** The counts of all batches written so far. */
    void written(Counts counts);

    /** A point has been reached at which a crash has consequences of its own; for tests of exactly these. */
    void reached(Point point, int batch);

    /** Points in the life of a batch. */
    enum Point {
        BEFORE_LEDGER,
        /** The ledger has it, the target not yet; what is sent record by record has not been sent. */
        BETWEEN_LEDGER_AND_COMMIT,
        /** Of a batch that is written in several connections: one has it, the next one has not. */
        BETWEEN_COMMITS,
        /** The target has it; what came of single records the ledger doesn't know yet. */
        AFTER_COMMIT
    }
}

package dev.nachlauf.service.run;

import dev.nachlauf.core.run.LedgerChunks;
import dev.nachlauf.core.run.RunRecords;

/** What the runs need of the ledger, which is a later feature and implements it. */
public interface LedgerOfRun {
    /** The records of a stage of a run for the process that owns the epoch of these notes. */
    RunRecords records(RunNotes notes, LedgerStage stage);

    /** What a stage of a ledger holds, for whoever may not change it. */
    LedgerChunks chunks(long run, LedgerStage stage);

    /** Takes back rejects that were shown while the run was held, in the transaction under way. */
    void forgetForeseen(long run);

    /** Adds what was written up; for runs that don't keep their sums yet. */
    RunSums sums(long run);
}

package dev.nachlauf.service.run;

import dev.nachlauf.core.run.RunRecords;

/** What the runs need of the ledger, which is a later feature and implements it. */
public interface LedgerOfRun {
    /** The records of a run for the process that owns the epoch of these notes. */
    RunRecords records(RunNotes notes);

    /** Takes back rejects that were shown while the run was held, in the transaction under way. */
    void forgetForeseen(long run);

    /** Adds a whole ledger up; for runs of earlier versions, which don't keep their sums. */
    RunSums sums(long run);
}

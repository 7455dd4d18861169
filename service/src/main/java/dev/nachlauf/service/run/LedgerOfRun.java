package dev.nachlauf.service.run;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.run.RunRecords;
import java.util.Map;

/** What the runs need of the ledger, which is a later feature and implements it. */
public interface LedgerOfRun {
    /** The records of a run for the process that owns the epoch of these notes. */
    RunRecords records(RunNotes notes);

    /** Takes back rejects that were shown while the run was held, in the transaction under way. */
    void forgetForeseen(long run);

    /** How many rows of the source are in batches of which nobody knows yet whether they were written. */
    long inDoubt(long run);

    /** The outcomes of all chunks of a run, but for those in doubt. */
    Counts counts(long run);

    /** What the steps and the further writes of a run did. */
    Tally tally(long run);

    /** How often each field was changed by updates. */
    Map<String, Long> changedFields(long run);

    /** Rejects of a run that nobody has dealt with yet. */
    long openRejects(long run);
}

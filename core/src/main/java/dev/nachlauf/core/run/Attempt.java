package dev.nachlauf.core.run;

import dev.nachlauf.core.system.Target.UnitId;

/**
 * One attempt to carry a run to its end, for all that takes part in it.
 *
 * @param epoch which take-over of the run it is
 */
record Attempt(String run, long epoch, LedgerWrites writes, RunRecords records, RunObserver observer) {
    /** The name of the unit of work in which a batch is written. */
    UnitId unit(int batch) {
        return new UnitId(run, epoch, batch);
    }
}

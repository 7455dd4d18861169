package dev.nachlauf.core.run;

/** Carries out what is planned of a batch, and keeps its ledger. Used by one thread. */
sealed interface Delivery permits AtomicDelivery, RecordDelivery, PlanKeeping, Rehearsal {
    /** Delivers a batch; false where a limit is crossed by it, and then nothing may follow. */
    boolean deliver(BatchInHand hand);

    /** No batch follows: marks what is committed as done, also where the run breaks off. */
    void finish();
}

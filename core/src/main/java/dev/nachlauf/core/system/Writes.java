package dev.nachlauf.core.system;

/** A system whose records can be written. */
public interface Writes extends HoldsRecords {
    /** A target for one run and one thread. */
    Target target(RecordDescription description, TargetUse use);
}

package dev.nachlauf.core.system;

import java.util.List;
import java.util.Optional;

/** A system whose records can be written. */
public interface Writes extends HoldsRecords {
    /**
     * What a record type demands to which a run has written.
     *
     * @param fields those that it has written; a system without record types of its own takes any
     */
    default Optional<RecordDescription> describe(String records, List<String> fields) {
        return describe(records);
    }

    /** A target for one run and one thread. */
    Target target(RecordDescription description, TargetUse use);
}

package dev.nachlauf.core.system;

import java.util.List;
import java.util.Optional;

/** A system that holds records of certain types. */
public interface HoldsRecords extends OpenSystem {
    /** The record types, by name. */
    List<RecordType> recordTypes();

    /** What a record type demands; empty where there is none of this name. Reads no records. */
    Optional<RecordDescription> describe(String records);

    /**
     * A record type.
     *
     * @param estimatedRecords about how many records it holds; empty where the system can't tell
     */
    record RecordType(String name, String label, boolean writable, java.util.OptionalLong estimatedRecords) {}
}

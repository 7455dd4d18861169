package dev.nachlauf.api;

import org.jspecify.annotations.Nullable;

/** A record type; {@code estimatedRecords} is null where the system can't tell. */
public record RecordTypeView(
        String name,
        String label,
        boolean writable,
        @Nullable Long estimatedRecords) {}

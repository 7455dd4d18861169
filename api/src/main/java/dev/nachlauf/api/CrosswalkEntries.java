package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** Entries to be added to a crosswalk. */
public record CrosswalkEntries(List<Entry> entries) {
    /** An exact entry; without a scope it belongs to the table without one. */
    public record Entry(String from, String to, @Nullable String scope) {}
}

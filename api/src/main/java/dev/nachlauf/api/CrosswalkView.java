package dev.nachlauf.api;

import java.time.Instant;

/** A crosswalk in its newest version. */
public record CrosswalkView(
        String name, String title, int version, int entries, String document, Instant savedAt, String savedBy) {}

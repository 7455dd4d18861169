package dev.nachlauf.api;

import java.time.Instant;

/** One version of a job. */
public record JobVersionView(
        int version, boolean draft, String title, String document, Instant savedAt, String savedBy) {}

package dev.nachlauf.api;

import java.time.Instant;

/** A connection. The document names secrets by reference only. */
public record ConnectionView(
        String name, String title, String type, String document, Instant savedAt, String savedBy) {}

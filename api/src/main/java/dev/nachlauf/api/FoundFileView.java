package dev.nachlauf.api;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A file of a place; size in bytes, -1 where the place doesn't say; null where it doesn't say when it was changed. */
public record FoundFileView(
        String name, long size, @Nullable Instant modified) {}

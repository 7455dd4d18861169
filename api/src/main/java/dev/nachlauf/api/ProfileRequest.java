package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A source to profile.
 *
 * @param keys sets of fields whose uniqueness is asked for
 * @param targetConnection and {@code targetRecords}: what the source's keys are compared with; null for nothing
 */
public record ProfileRequest(
        SourceRequest source,
        @Nullable List<List<String>> keys,
        @Nullable String targetConnection,
        @Nullable String targetRecords) {}

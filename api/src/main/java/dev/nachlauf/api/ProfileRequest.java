package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A source to profile.
 *
 * @param keys sets of fields whose uniqueness is asked for, and which are compared with the target; {@code column=field}
 *     where the target's field is called otherwise
 * @param targetConnection and {@code targetRecords}: what the source's keys are compared with; null for nothing
 */
public record ProfileRequest(
        SourceRequest source,
        @Nullable List<List<String>> keys,
        @Nullable String targetConnection,
        @Nullable String targetRecords) {}

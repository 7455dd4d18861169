package dev.nachlauf.api;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A token, without its secret.
 *
 * @param role what its holder may do: look, run, build or administer
 * @param seesSensitive whether its holder is shown sensitive values
 * @param madeBy the name of the token that made it
 * @param lastUsedAt to the minute; null where it was never used
 * @param retiredAt null while it is good
 */
public record TokenView(
        String name,
        String role,
        boolean seesSensitive,
        Instant madeAt,
        String madeBy,
        @Nullable Instant lastUsedAt,
        @Nullable Instant retiredAt) {}

package dev.nachlauf.api;

import org.jspecify.annotations.Nullable;

/**
 * Opens a browser's session; one of the two is given.
 *
 * @param token a token's secret
 * @param code the code of a link that was made for this
 */
public record OpenSession(@Nullable String token, @Nullable String code) {}

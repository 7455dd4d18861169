package dev.nachlauf.api;

import org.jspecify.annotations.Nullable;

/**
 * Asks for a token.
 *
 * @param name small letters, digits and hyphens; records name who did what by it
 * @param role look, run, build or administer
 * @param seesSensitive whether its holder is shown sensitive values; null for not
 */
public record MakeToken(String name, String role, @Nullable Boolean seesSensitive) {}

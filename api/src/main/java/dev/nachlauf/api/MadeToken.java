package dev.nachlauf.api;

/**
 * A token that was made.
 *
 * @param secret what its holder sends; the service keeps only a hash of it, so it is never shown again
 */
public record MadeToken(TokenView token, String secret) {}

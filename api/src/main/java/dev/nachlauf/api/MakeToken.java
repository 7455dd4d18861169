package dev.nachlauf.api;

/**
 * Asks for a token.
 *
 * @param name small letters, digits and hyphens; records name who did what by it
 * @param role look, run, build or administer
 */
public record MakeToken(String name, String role) {}

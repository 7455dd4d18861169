package dev.nachlauf.api;

/**
 * Who calls.
 *
 * @param name the token's name
 * @param role what it may do: look, run, build or administer
 */
public record SessionView(String name, String role) {}

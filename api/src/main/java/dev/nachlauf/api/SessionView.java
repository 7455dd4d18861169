package dev.nachlauf.api;

/**
 * Who calls.
 *
 * @param name the token's name
 * @param role what it may do: look, run, build or administer
 * @param seesSensitive whether sensitive values are shown
 */
public record SessionView(String name, String role, boolean seesSensitive) {}

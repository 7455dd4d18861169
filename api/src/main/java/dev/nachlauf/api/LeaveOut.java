package dev.nachlauf.api;

import org.jspecify.annotations.Nullable;

/**
 * Leaves rows of a held run out, or takes them in again.
 *
 * @param rows their numbers in the source, such as {@code 1-10,15}
 * @param leftOut false takes them in again; null for true
 */
public record LeaveOut(String rows, @Nullable Boolean leftOut) {}

package dev.nachlauf.api;

import org.jspecify.annotations.Nullable;

/**
 * Makes a version of a job the one that runs in a live environment.
 *
 * @param to the environment
 * @param note what changes and why
 * @param version the version; null for the newest
 */
public record PromoteJob(String to, String note, @Nullable Integer version) {}

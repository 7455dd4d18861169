package dev.nachlauf.api;

/**
 * Rejects of a run with the same reason.
 *
 * @param field empty where the reason concerns no single field
 * @param byTarget whether the target refused them though no check stood against them
 */
public record RejectGroup(String code, String field, boolean byTarget, long count) {}

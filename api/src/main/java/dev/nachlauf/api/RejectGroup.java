package dev.nachlauf.api;

import org.jspecify.annotations.Nullable;

/**
 * Rejected rows with the same reason; a row with several reasons counts in the group of each.
 *
 * @param field empty where the reason concerns no single field, or the groups are those of codes
 * @param value the value at fault; null where there is none, or the groups are not those of values
 * @param byTarget whether the target refused them though no check stood against them
 * @param count how many rows of the source
 */
public record RejectGroup(
        String code, String field, @Nullable String value, boolean byTarget, long count) {}

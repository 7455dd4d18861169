package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Records that somebody asked for.
 *
 * @param fields the names of the fields
 * @param records their values as text, in the same order; null for empty ones
 * @param more whether others meet the question, too
 * @param note what else there is to say; empty where there is nothing
 */
public record FoundRecords(List<String> fields, List<List<@Nullable String>> records, boolean more, String note) {}

package dev.nachlauf.api;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Takes back what a run has written.
 *
 * @param key the values of key fields of the records to take back; null or empty for all records
 * @param fields the fields to take back, of changed records; null or empty for all
 */
public record UndoRun(
        @Nullable Map<String, String> key, @Nullable List<String> fields) {}

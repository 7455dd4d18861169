package dev.nachlauf.api;

import java.util.Map;

/**
 * Creates or corrects one record.
 *
 * @param key the values of the key's fields
 * @param values what other fields become, as text; an empty one clears the field
 */
public record SetRecord(Map<String, String> key, Map<String, String> values) {}

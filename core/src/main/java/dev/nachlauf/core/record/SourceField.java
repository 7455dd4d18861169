package dev.nachlauf.core.record;

/**
 * A field of a source.
 *
 * @param name the name that formulas use; no two fields of a source share one
 * @param address where the field's values stand relative to their row: the column of a sheet, the path below a record,
 *     or, such as {@code field 3}, words for people
 */
public record SourceField(String name, String address) {}

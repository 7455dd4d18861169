package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A field of a record type.
 *
 * @param kind one of text, integer, decimal, boolean, date, time, timestamp
 * @param type the system's own word
 * @param uniqueIn the unique keys that the field is part of, each as its fields joined by {@code +}
 * @param refersTo the record type that it refers to; null where it doesn't
 */
public record FieldView(
        String name,
        String kind,
        String type,
        @Nullable Integer length,
        boolean required,
        boolean readOnly,
        String readOnlyReason,
        boolean generated,
        boolean primaryKey,
        List<String> uniqueIn,
        @Nullable String refersTo,
        List<String> allowed) {}

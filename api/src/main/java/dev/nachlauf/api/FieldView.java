package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A field of a record type.
 *
 * @param kind one of text, integer, decimal, boolean, date, time, timestamp
 * @param type the system's own word
 * @param fixed whether it can be written only when a record is made
 * @param uniqueIn the unique keys that the field is part of, each as its fields joined by {@code +}
 * @param sensitive whether its values are kept from those who look at ledgers and rejects
 * @param label and {@code help}: what the connection says of it for people; empty where it says nothing
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
        boolean fixed,
        boolean primaryKey,
        List<String> uniqueIn,
        @Nullable String refersTo,
        List<String> allowed,
        boolean sensitive,
        String label,
        String help) {}

package dev.nachlauf.core.system;

import dev.nachlauf.core.value.Kind;
import java.util.List;
import java.util.OptionalInt;

/**
 * What a target demands of a field.
 *
 * @param typeName the type in the system's own words
 * @param length most characters (code points) of a text
 * @param precision most digits of a decimal; for integers the size in bytes is in {@code integerBytes}
 * @param scale most digits behind the point of a decimal
 * @param integerBytes 2, 4 or 8 for integers
 * @param required has to be filled, and the system fills in nothing by itself
 * @param readOnly can't be written, for the reason given in {@code readOnlyReason}
 * @param generated the system gives it a value when none is written
 * @param allowed the allowed values; empty when all are
 * @param sensitive whether its values are kept from those who look at ledgers and rejects
 */
public record FieldDescription(
        String name,
        Kind kind,
        String typeName,
        OptionalInt length,
        OptionalInt precision,
        OptionalInt scale,
        OptionalInt integerBytes,
        boolean nullable,
        boolean required,
        boolean readOnly,
        String readOnlyReason,
        boolean generated,
        List<String> allowed,
        boolean sensitive) {
    public FieldDescription {
        allowed = List.copyOf(allowed);
    }

    /** A plain field that may be empty. */
    public static FieldDescription plain(String name, Kind kind) {
        return new FieldDescription(
                name,
                kind,
                kind.word(),
                OptionalInt.empty(),
                OptionalInt.empty(),
                OptionalInt.empty(),
                OptionalInt.empty(),
                true,
                false,
                false,
                "",
                false,
                List.of(),
                false);
    }

    /** A plain field that has to be filled. */
    public static FieldDescription requiredField(String name, Kind kind) {
        FieldDescription plain = plain(name, kind);
        return new FieldDescription(
                name,
                kind,
                plain.typeName,
                plain.length,
                plain.precision,
                plain.scale,
                plain.integerBytes,
                false,
                true,
                false,
                "",
                false,
                List.of(),
                false);
    }

    /** This field with a greatest length. */
    public FieldDescription atMost(int characters) {
        return new FieldDescription(
                name,
                kind,
                typeName,
                OptionalInt.of(characters),
                precision,
                scale,
                integerBytes,
                nullable,
                required,
                readOnly,
                readOnlyReason,
                generated,
                allowed,
                sensitive);
    }

    /** This field, closed to writing. */
    public FieldDescription closed(String reason) {
        return marked(true, reason, sensitive);
    }

    /** This field, its values kept from those who look. */
    public FieldDescription kept() {
        return marked(readOnly, readOnlyReason, true);
    }

    private FieldDescription marked(boolean closed, String reason, boolean kept) {
        return new FieldDescription(
                name,
                kind,
                typeName,
                length,
                precision,
                scale,
                integerBytes,
                nullable,
                required,
                closed,
                reason,
                generated,
                allowed,
                kept);
    }
}

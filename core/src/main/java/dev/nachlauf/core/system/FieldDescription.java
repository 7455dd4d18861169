package dev.nachlauf.core.system;

import dev.nachlauf.core.system.FieldTraits.OnCreate;
import dev.nachlauf.core.value.Kind;
import java.util.List;
import java.util.OptionalInt;

/**
 * What a target demands of a field.
 *
 * @param typeName the type in the system's own words
 * @param length most characters (code points) of a value that is written as text
 * @param precision most digits of a decimal; for integers the size in bytes is in {@code integerBytes}
 * @param scale most digits behind the point of a decimal
 * @param integerBytes how many bytes an integer has; 8 where that isn't said
 * @param characters which ones its texts may hold
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
        FieldTraits traits,
        Characters characters,
        List<String> allowed,
        boolean sensitive) {
    public FieldDescription {
        allowed = List.copyOf(allowed);
    }

    /** A field that can hold any character. */
    public FieldDescription(
            String name,
            Kind kind,
            String typeName,
            OptionalInt length,
            OptionalInt precision,
            OptionalInt scale,
            OptionalInt integerBytes,
            FieldTraits traits,
            List<String> allowed,
            boolean sensitive) {
        this(name, kind, typeName, length, precision, scale, integerBytes, traits, Characters.ANY, allowed, sensitive);
    }

    /** A plain field that may be empty. */
    public static FieldDescription plain(String name, Kind kind) {
        return plain(name, kind, FieldTraits.FREE);
    }

    /** A plain field that has to be filled. */
    public static FieldDescription requiredField(String name, Kind kind) {
        return plain(name, kind, FieldTraits.REQUIRED);
    }

    private static FieldDescription plain(String name, Kind kind, FieldTraits traits) {
        return new FieldDescription(
                name,
                kind,
                kind.word(),
                OptionalInt.empty(),
                OptionalInt.empty(),
                OptionalInt.empty(),
                OptionalInt.empty(),
                traits,
                List.of(),
                false);
    }

    /** Whether it has to be filled when a record is made. */
    public boolean required() {
        return traits.onCreate() == OnCreate.REQUIRED;
    }

    /** Whether the system gives it a value when none is written. */
    public boolean generated() {
        return traits.onCreate() == OnCreate.FILLED;
    }

    /** Whether it can't be written. */
    public boolean readOnly() {
        return !traits.closed().isEmpty();
    }

    /** This field with a greatest length. */
    public FieldDescription atMost(int characters) {
        return with(OptionalInt.of(characters), traits, sensitive);
    }

    /** This field, whose texts hold only some characters. */
    public FieldDescription holding(Characters some) {
        return new FieldDescription(
                name, kind, typeName, length, precision, scale, integerBytes, traits, some, allowed, sensitive);
    }

    /** This field with other traits. */
    public FieldDescription with(FieldTraits others) {
        return with(length, others, sensitive);
    }

    /** This field, closed to writing. */
    public FieldDescription closed(String reason) {
        return with(traits.closed(reason));
    }

    /** This field, its values kept from those who look. */
    public FieldDescription kept() {
        return with(length, traits, true);
    }

    private FieldDescription with(OptionalInt most, FieldTraits others, boolean kept) {
        return new FieldDescription(
                name, kind, typeName, most, precision, scale, integerBytes, others, characters, allowed, kept);
    }
}

package dev.nachlauf.core.formula;

import dev.nachlauf.core.value.Kind;

/** What the checker knows of an expression. */
sealed interface Type {
    /** A value of this kind, or null. */
    record Of(Kind kind) implements Type {}

    /** The word null: fits every kind. */
    record Null() implements Type {}

    /** Something is wrong with it and has been said; it fits everywhere, so that no second complaint follows. */
    record Broken() implements Type {}

    Type NULL = new Null();
    Type BROKEN = new Broken();

    static Type of(Kind kind) {
        return new Of(kind);
    }

    default boolean is(Kind kind) {
        return this instanceof Of of && of.kind == kind;
    }

    /** Whether a value of this type can stand where {@code kind} is wanted. */
    default boolean fits(Kind kind) {
        return switch (this) {
            case Of of -> of.kind == kind || of.kind == Kind.INTEGER && kind == Kind.DECIMAL;
            case Null ignored -> true;
            case Broken ignored -> true;
        };
    }

    /** The word for messages. */
    default String word() {
        return switch (this) {
            case Of of -> of.kind.word();
            case Null ignored -> "null";
            case Broken ignored -> "broken";
        };
    }
}

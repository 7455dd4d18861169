package dev.nachlauf.core.system;

/**
 * What a system wants of a field and allows with it.
 *
 * @param onCreate what it wants when a record is made
 * @param onChange whether the field can be changed once the record is there
 * @param mayBeCleared whether it may be without a value
 * @param closed why it can't be written at all; empty where it can
 */
public record FieldTraits(OnCreate onCreate, boolean onChange, boolean mayBeCleared, String closed) {
    /** May be filled or not, and changed. */
    public static final FieldTraits FREE = new FieldTraits(OnCreate.FREE, true, true, "");

    /** Has to be filled, always. */
    public static final FieldTraits REQUIRED = new FieldTraits(OnCreate.REQUIRED, true, false, "");

    /** What a system wants of a field when a record is made. */
    public enum OnCreate {
        /** It has to be written, for the system fills in nothing by itself. */
        REQUIRED,
        FREE,
        /** The system gives it a value where none is written. */
        FILLED
    }

    /** The same, closed to writing. */
    public FieldTraits closed(String reason) {
        return new FieldTraits(onCreate, onChange, mayBeCleared, reason);
    }

    /** The same, fixed once the record is there. */
    public FieldTraits fixed() {
        return new FieldTraits(onCreate, false, mayBeCleared, closed);
    }
}

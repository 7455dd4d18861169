package dev.nachlauf.core.load;

/** Where the way of a row ended; all counts of a batch are derived from it. */
public sealed interface Fate {
    /** What the reader gave was no whole row. */
    record Read() implements Fate {}

    /** A step left the row out or rejected it; steps are counted from 0. */
    record Step(int index) implements Fate {}

    /** The maps could make nothing of it, or no write took it. */
    record Mapped() implements Fate {}

    /** It came to the writes, and one of them refused it; writes are counted from 0. */
    record Write(int index) implements Fate {}

    /** It came to the writes, and none of them took it, for its record was already there, or was not found. */
    record Untaken() implements Fate {}

    /** It came to the writes, and none of them refused it. */
    record Written() implements Fate {}

    /** Whether a write took the row. */
    default boolean passed() {
        return switch (this) {
            case Read ignored -> false;
            case Step ignored -> false;
            case Mapped ignored -> false;
            case Untaken ignored -> false;
            case Write ignored -> true;
            case Written ignored -> true;
        };
    }
}

package dev.nachlauf.core.run;

/** Where the way of a row ends. */
sealed interface Fate {
    /** The reader found fault with it. */
    record Read() implements Fate {}

    /**
     * A step left it out or rejected it.
     *
     * @param step from 0
     */
    record Step(int step) implements Fate {}

    /** No write takes it, or it can't be mapped. */
    record Map() implements Fate {}

    /**
     * A write rejected it.
     *
     * @param write from 0
     */
    record Write(int write) implements Fate {}
}

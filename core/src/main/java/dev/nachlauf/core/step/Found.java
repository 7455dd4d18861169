package dev.nachlauf.core.step;

import org.jspecify.annotations.Nullable;

/**
 * What was found for a key.
 *
 * @param matches 0, 1, or 2 for several
 * @param values the wanted fields of the first record; empty where there is none
 */
public record Found(int matches, @Nullable Object[] values) {
    /** No record. */
    public static final Found NOTHING = new Found(0, new Object[0]);
}

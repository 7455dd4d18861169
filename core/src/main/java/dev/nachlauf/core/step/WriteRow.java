package dev.nachlauf.core.step;

import org.jspecify.annotations.Nullable;

/**
 * A row as one write takes it.
 *
 * @param number what tells it from others of its batch
 * @param group rows of a group are written together or not at all
 * @param row the number of the source row, for people
 * @param values the target's fields in the order of the write
 * @param key the parts of the key; null where one is missing, broken, or not known yet
 */
public record WriteRow(
        long number, long group, long row, @Nullable Object[] values, Object @Nullable [] key) {}

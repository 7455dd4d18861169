package dev.nachlauf.core.system;

import java.util.BitSet;
import org.jspecify.annotations.Nullable;

/**
 * A change to one record. Values are in the order of {@link TargetUse#fields}. {@code row} is the number of the source
 * row; changes with the same {@code group} are refused together.
 */
public sealed interface Change {
    long row();

    long group();

    Object[] key();

    /** A new record; {@code id} was reserved beforehand, or is null where the system gives it. */
    record Insert(
            long row,
            long group,
            Object[] key,
            @Nullable Object id,
            @Nullable Object[] after) implements Change {}

    /** A changed record; only the fields in {@code changed} are written, and only if its mark is still the one seen. */
    record Update(
            long row,
            long group,
            Object[] key,
            Object id,
            Object mark,
            @Nullable Object[] before,
            @Nullable Object[] after,
            BitSet changed)
            implements Change {}

    /** A removed record with all its readable fields. */
    record Delete(
            long row,
            long group,
            Object[] key,
            Object id,
            Object mark,
            @Nullable Object[] before) implements Change {}
}

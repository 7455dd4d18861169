package dev.nachlauf.core.system;

import java.util.BitSet;
import org.jspecify.annotations.Nullable;

/** A change to one record, as an object. Values are in the order of {@link TargetUse#fields}. */
public sealed interface Change {
    /** The values that the record will hold. */
    @Nullable
    Object[] after();

    /** A new record; {@code id} was reserved beforehand, or is null where the system gives it. */
    record Insert(@Nullable Object id, @Nullable Object[] after) implements Change {}

    /**
     * A changed record; only the fields in {@code changed} are written, and only if its mark is still the one seen.
     *
     * @param mark null where it is not known, and then nothing is written
     */
    record Update(
            Object id,
            @Nullable Object mark,
            @Nullable Object[] before,
            @Nullable Object[] after,
            BitSet changed) implements Change {}

    /** A removed record with all its readable fields. */
    record Delete(
            Object id, @Nullable Object mark, @Nullable Object[] before) implements Change {
        /** Nothing is left. */
        @Override
        public @Nullable Object[] after() {
            return new Object[before.length];
        }
    }
}

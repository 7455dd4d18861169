package dev.nachlauf.core.run;

import dev.nachlauf.core.spool.KeySet;
import dev.nachlauf.core.spool.RepeatedKeys;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.LoadKeys;

/** Notes the keys of one write, row by row, to find those that stand twice. */
sealed interface KeyNote {
    /** A row came. */
    void row(FlowRow row);

    /** All rows came. */
    default void end() {
        // nothing is kept back
    }

    /** Whether all rows have to come once more. */
    default boolean wantsAnotherLook() {
        return false;
    }

    /** A row came once more. */
    default void rowAgain(FlowRow row) {
        // once was enough
    }

    /** Keys of which only the target knows which are equal. */
    record Own(LoadKeys keys, int write, OwnKeys own) implements KeyNote {
        @Override
        public void row(FlowRow row) {
            Object[] key = keys.values(row, write);
            if (key != null) {
                own.add(key, row.position(), row.source().number());
            }
        }

        @Override
        public void end() {
            own.ask();
        }
    }

    /** Keys that are equal where their bytes are. Almost always a few bits of each tell that none stands twice. */
    record Hashed(LoadKeys keys, int write, RepeatedKeys repeated, KeySet met) implements KeyNote {
        /** @param bytes how much memory the keys may take */
        Hashed(LoadKeys keys, int write, RepeatedKeys repeated, long bytes) {
            this(keys, write, repeated, new KeySet(bytes));
        }

        @Override
        public void row(FlowRow row) {
            byte[] key = keys.key(row, write);
            if (key != null) {
                met.add(key);
            }
        }

        @Override
        public boolean wantsAnotherLook() {
            return met.isFull() || met.hasSuspects();
        }

        @Override
        public void rowAgain(FlowRow row) {
            byte[] key = keys.key(row, write);
            if (key != null && met.isSuspect(key)) {
                repeated.add(key, row.position(), row.source().number());
            }
        }
    }
}

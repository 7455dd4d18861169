package dev.nachlauf.core.system;

import dev.nachlauf.core.record.RowBlock;

/**
 * Where records are written: one connection, one run, one thread. The core finds, compares and decides; the target finds
 * and applies, set by set. What an exception leaves behind is asked for with {@link #settle}.
 */
public interface Target extends AutoCloseable {
    /** How this target likes to be used. */
    Traits traits();

    /** How it spells its records. */
    Cells cells();

    /**
     * Finds the stored records with the keys of some rows.
     *
     * @param rows values in the order of {@link TargetUse#fields}, in the form of {@link #cells}; keys have no nulls
     * @param which the rows that are asked about
     * @param found takes every record that is found, in any order; two of one key are enough where there are more
     */
    void find(RowBlock rows, int[] which, Found found);

    /** Begins a unit of work: the records found before it and applied in it belong together where batches are atomic. */
    Unit begin(UnitId id);

    /** What became of a unit whose end nobody saw. */
    Settlement settle(Token token, ChangeSet inDoubt);

    /** Called by another thread: whatever waits for the system fails at once. Nothing is known of a unit under way. */
    default void abort() {
        // a target that never waits has nothing to end
    }

    @Override
    void close();

    /**
     * How a target likes to be used.
     *
     * @param atomic a unit is written whole or not at all
     * @param batchRows how many rows a batch should have
     * @param severalWriters whether two units may be under way at once
     */
    record Traits(boolean atomic, int batchRows, boolean severalWriters) {}

    /** Takes what is found. */
    @FunctionalInterface
    interface Found {
        /** A record with the key of a row; it is lent for this call. */
        void take(int row, StoredRecord record);
    }

    /** Names a unit. */
    record UnitId(String run, long epoch, int batch) {}

    /** What {@link Target#settle} needs to know of a unit, in the target's own writing. */
    record Token(String text) {}

    /** Work in progress. Closed without a commit, it is undone where units are atomic. Closing twice is harmless. */
    interface Unit extends AutoCloseable {
        /** To be saved before {@link #commit} where units are atomic, else before {@link #apply}. */
        Token token();

        /**
         * Applies the changes of some rows and answers each of them. An exception means that nothing is known.
         *
         * @param which rows of the set with a change
         */
        void apply(ChangeSet changes, int[] which, Answers answers);

        /** Makes the unit last. */
        void commit();

        @Override
        void close();
    }

    /** What became of a unit. */
    sealed interface Settlement {
        record Committed() implements Settlement {}

        record RolledBack() implements Settlement {}

        /** Each record was written for itself, or was not: they have to be looked up one by one. */
        record PerRecord() implements Settlement {}

        /** Not to be known now; ask again. */
        record NotYet() implements Settlement {}
    }
}

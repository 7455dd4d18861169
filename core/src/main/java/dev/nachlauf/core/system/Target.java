package dev.nachlauf.core.system;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Where records are written: one connection, one run, one thread. The core finds, compares and decides; the target finds
 * and applies, set by set. What an exception leaves behind is asked for with {@link #settle}.
 */
public interface Target extends AutoCloseable {
    /** How this target likes to be used. */
    Traits traits();

    /** The stored records with these keys and their values of the wanted fields. */
    Stored find(Keys keys, FieldSet wanted);

    /** Begins a unit of work: the records found before it and applied in it belong together where batches are atomic. */
    Unit begin(UnitId id);

    /** What became of a unit whose end nobody saw. */
    Settlement settle(Token token, List<Change> inDoubt);

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

    /** Keys to look for; {@code values} are in the order of {@code fields}, without nulls. */
    record Keys(List<String> fields, List<Object[]> values) {}

    /** Fields whose stored values are wanted. */
    record FieldSet(List<String> names) {
        public FieldSet {
            names = List.copyOf(names);
        }
    }

    /** Names a unit. */
    record UnitId(String run, long epoch, int batch) {}

    /** What {@link Target#settle} needs to know of a unit, in the target's own writing. */
    record Token(String text) {}

    /** What was found, by the index of the key that was asked for. */
    interface Stored {
        /** 0, 1, or 2 for several. */
        int matches(int key);

        /** The record of a key with at least one match. */
        StoredRecord record(int key);
    }

    /** A stored record. Values are decoded when they are asked for. */
    interface StoredRecord {
        /** What identifies the record in the system. */
        Object id();

        /** Changes whenever the record does. */
        Object mark();

        /** The value of a wanted field, by its index. */
        @Nullable
        Object value(int field);

        /** Whether the stored value equals this one. */
        boolean same(int field, @Nullable Object value);
    }

    /** Work in progress. Closed without a commit, it is undone where units are atomic. Closing twice is harmless. */
    interface Unit extends AutoCloseable {
        /** To be saved before {@link #commit} where units are atomic, else before {@link #apply}. */
        Token token();

        /** Applies changes; the answers have the same size and order. An exception means that nothing is known. */
        List<Answer> apply(List<Change> changes);

        /** Makes the unit last. */
        void commit();

        @Override
        void close();
    }

    /** What became of a unit. */
    sealed interface Settlement {
        record Committed() implements Settlement {}

        record RolledBack() implements Settlement {}

        /** One answer per change in doubt, in order. */
        record PerRecord(List<Answer> answers) implements Settlement {}

        /** Not to be known now; ask again. */
        record NotYet() implements Settlement {}
    }
}

package dev.nachlauf.core.system;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A system in which records can be found by key, many at once, without changing anything there. */
public interface LooksUp extends HoldsRecords {
    /**
     * One answer per key, in order.
     *
     * @param keys the values of {@code keyFields}, without nulls, as the system compares them
     * @throws dev.nachlauf.core.problem.CannotGoOn where there are no such records
     */
    List<Match> lookUp(String records, List<String> keyFields, List<String> wanted, List<Object[]> keys);

    /**
     * What was found for a key.
     *
     * @param count 0, 1, or 2 for several
     * @param values the wanted fields of the first record, by its id; empty where there is none
     */
    record Match(int count, @Nullable Object[] values) {
        /** No record. */
        public static final Match NONE = new Match(0, new Object[0]);
    }
}

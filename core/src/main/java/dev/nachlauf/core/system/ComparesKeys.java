package dev.nachlauf.core.system;

import java.util.List;

/** A target to which keys can be equal that differ to us: in case, accents or spelling. */
public interface ComparesKeys {
    /** The number of keys that the target can't take. */
    long NONE = -1;

    /** Whether there are such keys among those of this target; if not, equal keys have equal values. */
    boolean hasOwnEquality();

    /**
     * A number for each key; keys have the same number exactly where they are equal to the target. Numbers are the same
     * over all calls to one target. A key that it can't take has the number {@link #NONE}.
     *
     * @param keys values in the order of {@link TargetUse#key}, without nulls
     */
    List<Long> classes(List<Object[]> keys);
}

package dev.nachlauf.core.system;

import java.util.List;

/** A target to which keys can be equal that differ to us: in case, accents or spelling. */
public interface ComparesKeys {
    /** Whether there are such keys among those of this target; if not, equal keys have equal values. */
    boolean hasOwnEquality();

    /**
     * A number for each key; keys have the same number exactly where they are equal to the target. Numbers are the same
     * over all calls to one target.
     *
     * @param keys values in the order of {@link TargetUse#key}, without nulls
     */
    List<Long> classes(List<Object[]> keys);
}

package dev.nachlauf.core.system;

import dev.nachlauf.core.problem.Problem;
import java.util.List;
import java.util.Map;

/** A target that can tell beforehand which records it would not let go. */
public interface ForeseesRemovals {
    /**
     * Asks; nothing is changed.
     *
     * @param removals rows of the set whose records are to go
     * @return why records can't go, such as others that refer to them, by row
     */
    Map<Integer, List<Problem>> forbidden(ChangeSet changes, int[] removals);
}

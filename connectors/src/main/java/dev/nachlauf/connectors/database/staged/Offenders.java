package dev.nachlauf.connectors.database.staged;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.system.Answers;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * Rows of which the database has said that it can't write them.
 *
 * @param problems why, by row
 * @param moved rows with a key that somebody else has inserted since it was looked for
 */
record Offenders(Map<Integer, List<Problem>> problems, Set<Integer> moved) {
    /** There are none. */
    static final Offenders NONE = new Offenders(Map.of(), Set.of());

    boolean isEmpty() {
        return problems.isEmpty() && moved.isEmpty();
    }

    /** Those of these rows that are no offenders. */
    int[] without(int[] which) {
        return isEmpty()
                ? which
                : IntStream.of(which)
                        .filter(row -> !problems.containsKey(row) && !moved.contains(row))
                        .toArray();
    }

    void answer(Answers answers) {
        moved.forEach(answers::moved);
        problems.forEach(answers::refused);
    }
}

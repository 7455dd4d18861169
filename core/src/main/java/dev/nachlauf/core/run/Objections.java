package dev.nachlauf.core.run;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.system.ChangeSet;
import java.util.List;
import java.util.Map;

/** What stands against removing records, as far as it is known before they are written. */
@FunctionalInterface
interface Objections {
    /** Why a record can't go, and whether the target said so when the change was sent. */
    record Objection(List<Problem> reasons, boolean byTarget) {}

    /** Why records can't go that these rows of a set change, by row. */
    Map<Integer, Objection> of(int write, ChangeSet changes, int[] changing);
}

package dev.nachlauf.core.load;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.system.Change;

/** What has to be done for a row. */
public sealed interface Decision {
    /** The stored record equals the row. */
    record Leave(Object id) implements Decision {}

    /** The record has to be changed. */
    record Write(Change change) implements Decision {}

    /** The row can't be written. */
    record Reject(Problem problem) implements Decision {}
}

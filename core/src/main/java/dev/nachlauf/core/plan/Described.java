package dev.nachlauf.core.plan;

import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.system.RecordDescription;
import java.util.List;
import java.util.Optional;

/** Looks at the record types that a job names. */
@FunctionalInterface
public interface Described {
    /**
     * What a record type demands; empty where it can't be looked at, which is said.
     *
     * @param written whether the job writes it; else it is only asked
     */
    Optional<RecordDescription> of(
            Placed<String> connection, Placed<String> records, boolean written, List<Problem> problems);
}

package dev.nachlauf.core.run;

import dev.nachlauf.core.job.JobDefinition.Limit;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Keeps the counts of a run and holds it when too many rows are rejected. A job's limit counts rows of the source, each
 * once, whatever the steps and the writes make of it. Shared by the writers.
 */
final class RejectGuard {
    private final Optional<Limit> limit;
    private final RunPolicy policy;
    private final long rows;
    private final long foreseen;
    private Counts counts;
    private Tally tally;
    private @Nullable Problem crossed;

    /**
     * @param rows rows in the source
     * @param foreseen source rows with rejects that the survey foresees
     * @param counts what earlier attempts of this run have written
     * @param tally the rest of it
     */
    RejectGuard(Optional<Limit> limit, RunPolicy policy, long rows, long foreseen, Counts counts, Tally tally) {
        this.limit = limit;
        this.policy = policy;
        this.rows = rows;
        this.foreseen = foreseen;
        this.counts = counts;
        this.tally = new Tally(List.of(), List.of(), tally.elsewhere(), tally.sources(), tally.refused());
    }

    /**
     * Adds a batch to the counts; false where its rejects cross a limit, and then it is not added. A plan goes on to its end,
     * so that people see all of it.
     */
    synchronized boolean admit(Chunk.Head batch) {
        if (allows(batch) || policy.planOnly()) {
            add(batch);
            return true;
        }
        return false;
    }

    /** Whether a batch crosses no limit; it is not added. */
    synchronized boolean allows(Chunk.Head batch) {
        Counts sum = counts.plus(batch.counts());
        Tally sums = tally.plus(rejects(batch));
        check(Math.max(sums.sources(), foreseen + sums.refused()), sum.allRejected() + sums.elsewhere());
        return crossed == null;
    }

    /** Adds a batch that can't be taken back; false where a limit is crossed with it. */
    synchronized boolean took(Chunk.Head batch) {
        allows(batch);
        add(batch);
        return crossed == null;
    }

    private void add(Chunk.Head batch) {
        counts = counts.plus(batch.counts());
        tally = tally.plus(rejects(batch));
    }

    private static Tally rejects(Chunk.Head batch) {
        Tally of = batch.tally();
        return new Tally(List.of(), List.of(), of.elsewhere(), of.sources(), of.refused());
    }

    /** Looks at what is known before the first batch: why nothing is to be written. */
    synchronized Optional<Problem> checkBefore() {
        check(foreseen, foreseen);
        return policy.planOnly() ? Optional.empty() : Optional.ofNullable(crossed);
    }

    private void check(long sources, long rejects) {
        if (policy.beyondLimit()) {
            return;
        }
        if (limit.isPresent() && limit.get().crossed(sources, rows)) {
            crossed = Problem.of(
                    ProblemCode.LIMIT_CROSSED,
                    "At least " + sources + " of " + rows + " rows are rejected; the job's limit is "
                            + limit.get().text() + ".",
                    "Look at the rejects, then release the run beyond the limit, or discard it.");
        } else if (rejects > policy.mostRejects()) {
            crossed = Problem.of(
                    ProblemCode.TOO_MANY_REJECTS,
                    "More than " + policy.mostRejects() + " rows are rejected.",
                    "Correct the job or the source and discard this run, or release it beyond the limit.");
        }
    }

    synchronized Counts counts() {
        return counts;
    }

    synchronized Optional<Problem> crossed() {
        return Optional.ofNullable(crossed);
    }
}

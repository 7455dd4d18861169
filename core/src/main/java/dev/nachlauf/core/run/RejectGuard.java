package dev.nachlauf.core.run;

import dev.nachlauf.core.job.JobDefinition.Limit;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Keeps the counts of a run and holds it when too many rows are rejected. Shared by the writers. */
final class RejectGuard {
    private final Optional<Limit> limit;
    private final RunPolicy policy;
    private final long rows;
    private final long rejectedBefore;
    private Counts counts;
    private long elsewhere;
    private @Nullable Problem crossed;

    /**
     * @param rows rows in the source
     * @param rejectedBefore rejects that the survey foresees
     * @param counts what earlier attempts of this run have written
     */
    RejectGuard(Optional<Limit> limit, RunPolicy policy, long rows, long rejectedBefore, Counts counts) {
        this.limit = limit;
        this.policy = policy;
        this.rows = rows;
        this.rejectedBefore = rejectedBefore;
        this.counts = counts;
    }

    /**
     * Adds a batch to the counts; false where its rejects cross a limit, and then it is not added.
     *
     * @param rejectedElsewhere rows that are rejected and not counted so in {@code batch}
     */
    synchronized boolean admit(Counts batch, long rejectedElsewhere) {
        Counts sum = counts.plus(batch);
        long all = sum.allRejected() + elsewhere + rejectedElsewhere;
        long refused = sum.refused() + elsewhere + rejectedElsewhere;
        check(limit.isPresent() ? Math.max(all, rejectedBefore + refused) : all);
        if (crossed == null) {
            counts = sum;
            elsewhere += rejectedElsewhere;
        }
        return crossed == null;
    }

    /** Adds what earlier attempts have rejected outside of the counts. */
    synchronized void add(long rejectedElsewhere) {
        elsewhere += rejectedElsewhere;
    }

    /** Looks at what is known before the first batch. */
    synchronized Optional<Problem> checkBefore() {
        check(rejectedBefore);
        return Optional.ofNullable(crossed);
    }

    private void check(long rejected) {
        if (policy.beyondLimit()) {
            return;
        }
        if (limit.isPresent() && limit.get().crossed(rejected, rows, true)) {
            crossed = Problem.of(
                    ProblemCode.LIMIT_CROSSED,
                    "At least " + rejected + " of " + rows + " rows are rejected; the job's limit is "
                            + limit.get().text() + ".",
                    "Look at the rejects, then release the run beyond the limit, or discard it.");
        } else if (rejected > policy.mostRejects()) {
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

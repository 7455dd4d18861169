package dev.nachlauf.core.run;

import dev.nachlauf.core.job.Limits;
import dev.nachlauf.core.job.Limits.Limit;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.List;
import java.util.Optional;
import java.util.function.ToLongFunction;
import org.jspecify.annotations.Nullable;

/**
 * Keeps the counts of a run and holds it when a limit is crossed. The limit of rejects counts rows of the source, each
 * once, whatever the steps and the writes make of it; the others count records, whichever write changes or removes them.
 * Shared by the writers.
 */
final class LimitGuard {
    private final Limits limits;
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
    LimitGuard(Limits limits, RunPolicy policy, long rows, long foreseen, Counts counts, Tally tally) {
        this.limits = limits;
        this.policy = policy;
        this.rows = rows;
        this.foreseen = foreseen;
        this.counts = counts;
        this.tally = withoutSteps(tally);
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
        Tally sums = tally.plus(withoutSteps(batch.tally()));
        check(Math.max(sums.sources(), foreseen + sums.refused()), sum.allRejected() + sums.elsewhere());
        check(limits.updated(), of(sum, sums, Counts::updated), "changed");
        check(limits.deleted(), of(sum, sums, Counts::deleted), "removed");
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
        tally = tally.plus(withoutSteps(batch.tally()));
    }

    private static Tally withoutSteps(Tally of) {
        return new Tally(List.of(), of.writes(), of.removals(), of.elsewhere(), of.sources(), of.refused());
    }

    /** The sum of an outcome over all writes and removals. */
    private static long of(Counts main, Tally tally, ToLongFunction<Counts> outcome) {
        return tally.outcomes(main).stream().mapToLong(outcome).sum();
    }

    /** Looks at what is known before the first batch: why nothing is to be written. */
    synchronized Optional<Problem> checkBefore() {
        check(foreseen, foreseen);
        return policy.planOnly() ? Optional.empty() : Optional.ofNullable(crossed);
    }

    private void check(Optional<Limit> limit, long records, String word) {
        if (!policy.beyondLimit() && limit.isPresent() && limit.get().crossed(records, rows)) {
            crossed = Problem.of(
                    ProblemCode.LIMIT_CROSSED,
                    (records == 1 ? "1 record" : records + " records") + " would be " + word
                            + (limit.get() instanceof Limit.Percent
                                    ? " by " + rows + (rows == 1 ? " row" : " rows")
                                    : "")
                            + "; the job's limit is " + limit.get().text() + ".",
                    "Look at what is planned, then release the run beyond the limit, or discard it.");
        }
    }

    private void check(long sources, long rejects) {
        if (policy.beyondLimit()) {
            return;
        }
        Optional<Limit> limit = limits.rejected();
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

    /** Something else stands against writing. */
    synchronized void hold(Problem reason) {
        if (!policy.beyondLimit() && crossed == null) {
            crossed = reason;
        }
    }

    synchronized Counts counts() {
        return counts;
    }

    synchronized Optional<Problem> crossed() {
        return Optional.ofNullable(crossed);
    }
}

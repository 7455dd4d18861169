package dev.nachlauf.core.run;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.Optional;

/**
 * What makes a run special.
 *
 * @param beyondLimit goes on although a limit is crossed, because a person said so
 * @param batchRows most rows of a batch
 * @param mostRejects more rejects than this hold the run
 * @param first as many rows of the source are written, then the run is held; {@link #ALL} writes all
 */
public record RunPolicy(Purpose purpose, boolean beyondLimit, int batchRows, long mostRejects, long first) {
    /** All rows are written. */
    public static final long ALL = Long.MAX_VALUE;

    /** What a run is for. */
    public enum Purpose {
        /** It reads, plans and writes batch by batch. */
        WRITE,
        /** It plans everything, keeps that, and ends. */
        DRY_RUN,
        /** It sends everything to targets that keep nothing of it, keeps what they say, and ends. */
        REHEARSAL,
        /** It plans everything and keeps that, so that it is written only where no limit is crossed. */
        PLAN_FIRST,
        /** It plans everything, keeps that, and waits for a person. */
        REVIEW
    }

    /** Of a run that goes through all rows. */
    public RunPolicy(Purpose purpose, boolean beyondLimit, int batchRows, long mostRejects) {
        this(purpose, beyondLimit, batchRows, mostRejects, ALL);
    }

    /** Of a run that writes. */
    public RunPolicy(boolean beyondLimit, int batchRows, long mostRejects) {
        this(Purpose.WRITE, beyondLimit, batchRows, mostRejects);
    }

    /** What an ordinary run does. */
    public static final RunPolicy ORDINARY = new RunPolicy(false, 10_000, 100_000);

    /** Why a run is held that was to write its first rows of so many; empty where these are all. */
    Optional<Problem> firstWritten(long rows) {
        return rows <= first
                ? Optional.empty()
                : Optional.of(Problem.of(
                        ProblemCode.FIRST_ROWS_WRITTEN,
                        (first == 1 ? "The first row is" : "The first " + first + " rows are") + " written.",
                        "Look at what became of them, then release the run to write the rest, or discard it."));
    }

    /** Whether everything is planned and kept, and nothing is written. */
    boolean planOnly() {
        return purpose != Purpose.WRITE;
    }
}

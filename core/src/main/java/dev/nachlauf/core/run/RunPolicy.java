package dev.nachlauf.core.run;

/**
 * What makes a run special.
 *
 * @param beyondLimit goes on although a limit is crossed, because a person said so
 * @param batchRows most rows of a batch
 * @param mostRejects more rejects than this hold the run
 */
public record RunPolicy(Purpose purpose, boolean beyondLimit, int batchRows, long mostRejects) {
    /** What a run is for. */
    public enum Purpose {
        /** It reads, plans and writes batch by batch. */
        WRITE,
        /** It plans everything, keeps that, and ends. */
        DRY_RUN,
        /** It plans everything and keeps that, so that it is written only where no limit is crossed. */
        PLAN_FIRST,
        /** It plans everything, keeps that, and waits for a person. */
        REVIEW
    }

    /** Of a run that writes. */
    public RunPolicy(boolean beyondLimit, int batchRows, long mostRejects) {
        this(Purpose.WRITE, beyondLimit, batchRows, mostRejects);
    }

    /** What an ordinary run does. */
    public static final RunPolicy ORDINARY = new RunPolicy(false, 10_000, 100_000);

    /** Whether everything is planned and kept, and nothing is sent. */
    boolean planOnly() {
        return purpose != Purpose.WRITE;
    }
}

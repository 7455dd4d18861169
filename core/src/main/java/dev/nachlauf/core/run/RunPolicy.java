package dev.nachlauf.core.run;

/**
 * What makes a run special.
 *
 * @param beyondLimit goes on although a limit is crossed, because a person said so
 * @param batchRows most rows of a batch
 * @param mostRejects more rejects than this hold the run
 * @param planOnly everything is planned and kept, and nothing is sent
 */
public record RunPolicy(boolean beyondLimit, int batchRows, long mostRejects, boolean planOnly) {
    /** Of a run that writes. */
    public RunPolicy(boolean beyondLimit, int batchRows, long mostRejects) {
        this(beyondLimit, batchRows, mostRejects, false);
    }

    /** What an ordinary run does. */
    public static final RunPolicy ORDINARY = new RunPolicy(false, 10_000, 100_000);
}

package dev.nachlauf.core.load;

/**
 * A step's part of the balance: {@code in + made = out + skipped + rejected + merged}.
 *
 * @param in rows that came to the step
 * @param out rows that went on from it
 */
public record StepCount(long in, long out, long skipped, long rejected) {
    /** Nothing. */
    public static final StepCount NONE = new StepCount(0, 0, 0, 0);

    /** The sum. */
    public StepCount plus(StepCount other) {
        return new StepCount(in + other.in, out + other.out, skipped + other.skipped, rejected + other.rejected);
    }

    /** Rows that the step made beyond those that came to it. */
    public long made() {
        return Math.max(0, out + skipped + rejected - in);
    }

    /** Rows that went into others. */
    public long merged() {
        return Math.max(0, in - out - skipped - rejected);
    }
}

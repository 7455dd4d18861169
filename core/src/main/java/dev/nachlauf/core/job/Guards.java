package dev.nachlauf.core.job;

/**
 * What a run does about signs that something is wrong, though every row is sound.
 *
 * @param nearDuplicates new records that equal a stored one in everything but a part of the key
 * @param unlikeLastTime a source, or what becomes of it, that differs from the runs before
 */
public record Guards(Guard nearDuplicates, Guard unlikeLastTime) {
    /** Both are told. */
    public static final Guards WARN = new Guards(Guard.WARN, Guard.WARN);

    /** What is done about a sign. */
    public enum Guard {
        /** It is told with its evidence. */
        WARN,
        /** The run is planned first, and held where there is one. */
        HOLD,
        /** It means nothing here, and isn't looked for. */
        ALLOW
    }

    /** Whether some sign holds the run, so that everything has to be known before anything is written. */
    public boolean hold() {
        return nearDuplicates == Guard.HOLD || unlikeLastTime == Guard.HOLD;
    }
}

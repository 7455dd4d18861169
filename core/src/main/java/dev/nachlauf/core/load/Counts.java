package dev.nachlauf.core.load;

/**
 * Rows by what became of them.
 *
 * @param rejected rows rejected before they met the target
 * @param refused rows rejected by the write
 * @param warned rows with warnings, beside any outcome
 */
public record Counts(
        long read,
        long skipped,
        long rejected,
        long inserted,
        long updated,
        long unchanged,
        long deleted,
        long issued,
        long refused,
        long warned) {
    /** No rows. */
    public static final Counts NONE = new Counts(0, 0, 0, 0, 0, 0, 0, 0, 0, 0);

    /** The sum. */
    public Counts plus(Counts other) {
        return new Counts(
                read + other.read,
                skipped + other.skipped,
                rejected + other.rejected,
                inserted + other.inserted,
                updated + other.updated,
                unchanged + other.unchanged,
                deleted + other.deleted,
                issued + other.issued,
                refused + other.refused,
                warned + other.warned);
    }

    /** What became of rows on the way to the writes. */
    public static Counts reading(long read, long skipped, long rejected, long warned) {
        return new Counts(read, skipped, rejected, 0, 0, 0, 0, 0, 0, warned);
    }

    /** What became of rows in a write. */
    public static Counts taken(long inserted, long updated, long unchanged, long deleted, long issued, long refused) {
        return new Counts(0, 0, 0, inserted, updated, unchanged, deleted, issued, refused, 0);
    }

    /** Rows that the write took, by the sum of their outcomes. */
    public long taken() {
        return inserted + updated + unchanged + deleted + issued + refused;
    }

    /** Distinct rows with rejects. */
    public long allRejected() {
        return rejected + refused;
    }
}

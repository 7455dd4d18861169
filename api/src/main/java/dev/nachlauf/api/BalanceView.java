package dev.nachlauf.api;

/**
 * The row balance: {@code read = skipped + rejected + passed + unreached}, and for the write {@code taken = inserted +
 * updated + unchanged + deleted + issued + refused}.
 *
 * @param rejected rows rejected before the write
 * @param refused rows rejected by the write
 * @param warned rows with warnings beside any outcome
 * @param balanced whether both sums hold
 */
public record BalanceView(
        long read,
        long skipped,
        long rejected,
        long passed,
        long unreached,
        long taken,
        long inserted,
        long updated,
        long unchanged,
        long deleted,
        long issued,
        long refused,
        long warned,
        boolean balanced) {

    /** Distinct rows with rejects. */
    public long allRejected() {
        return rejected + refused;
    }
}

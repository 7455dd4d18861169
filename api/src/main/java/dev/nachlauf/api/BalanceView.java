package dev.nachlauf.api;

import java.util.List;

/**
 * The row balance: {@code read = skipped + rejected + passed + unreached + unknown}, and for the write {@code taken =
 * inserted + updated + unchanged + deleted + issued + refused}.
 *
 * @param rejected rows rejected before the write
 * @param unknown rows of which the target has not said yet whether they were written; they are in no other count, and
 *     are asked about until it is known
 * @param refused rows rejected by the write
 * @param warned rows with warnings beside any outcome
 * @param elsewhere rows that only a write other than the main one rejected
 * @param balanced whether all sums hold
 * @param steps what reading, each step and the maps did, in order; empty in lists and for runs of earlier versions
 * @param writes one per write, the main one among them; empty in lists
 */
public record BalanceView(
        long read,
        long skipped,
        long rejected,
        long passed,
        long unreached,
        long unknown,
        long taken,
        long inserted,
        long updated,
        long unchanged,
        long deleted,
        long issued,
        long refused,
        long warned,
        long elsewhere,
        boolean balanced,
        List<StepCountView> steps,
        List<WriteCountView> writes) {

    /** Distinct rows with rejects. */
    public long allRejected() {
        return rejected + refused + elsewhere;
    }

    /** Records that the source no longer has, and that can't go; no row stands behind them. */
    public long kept() {
        return writes.stream()
                .filter(WriteCountView::gone)
                .mapToLong(WriteCountView::refused)
                .sum();
    }
}

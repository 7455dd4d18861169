package dev.nachlauf.core.load;

import java.util.Optional;

/**
 * The proof that every row is accounted for: {@code read = skipped + rejected + passed + unreached} and, for the write,
 * {@code taken = inserted + updated + unchanged + deleted + issued + rejected}, where what passed is what was taken.
 *
 * @param read rows in the source, counted by themselves, before and apart from the outcomes
 * @param counts the outcomes, summed over the ledger
 */
public record Balance(long read, Counts counts) {

    /** Rows that went on to the write. */
    public long passed() {
        return counts.read() - counts.skipped() - counts.rejected();
    }

    /** Rows that a stopped or failed run never came to. */
    public long unreached() {
        return read - counts.read();
    }

    /** Why it does not balance; empty when it does. */
    public Optional<String> gap() {
        if (unreached() < 0) {
            return Optional.of("The ledger holds " + counts.read() + " rows, but only " + read + " were read.");
        }
        if (passed() != counts.taken()) {
            return Optional.of(
                    passed() + " rows passed, but the outcomes of the write add up to " + counts.taken() + ".");
        }
        return Optional.empty();
    }
}

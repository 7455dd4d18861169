package dev.nachlauf.core.load;

import java.util.List;
import java.util.Optional;

/**
 * The proof that every row is accounted for: {@code read = skipped + rejected + passed + unreached +
 * unknown}, for each step {@code
 * in + made = out + skipped + rejected + merged}, what goes out of one step comes to the next, and for each write {@code
 * taken = inserted + updated + unchanged + deleted + issued + rejected}.
 *
 * @param read rows in the source, counted by themselves, before and apart from the outcomes
 * @param counts the outcomes of reading and of the main write, summed over what the ledger knows
 * @param tally the steps and the other writes
 * @param simple whether every row that passes goes to one write
 * @param unknown rows of batches of which the target has not said whether they were written; they are in no other count
 */
public record Balance(long read, Counts counts, Tally tally, boolean simple, long unknown) {
    /** The balance of a job with one write and no step that changes the number of rows. */
    public Balance(long read, Counts counts) {
        this(read, counts, Tally.NONE, true, 0);
    }

    /** Rows that went on to the steps that change their number, or to the write. */
    public long passed() {
        return counts.read() - counts.skipped() - counts.rejected();
    }

    /** Rows that a stopped or failed run never came to. */
    public long unreached() {
        return read - counts.read() - unknown;
    }

    /** Why it does not balance; empty when it does. */
    public Optional<String> gap() {
        if (unreached() < 0) {
            return Optional.of(
                    "The ledger holds " + (counts.read() + unknown) + " rows, but only " + read + " were read.");
        }
        if (simple && passed() != counts.taken()) {
            return Optional.of(
                    passed() + " rows passed, but the outcomes of the write add up to " + counts.taken() + ".");
        }
        List<StepCount> steps = tally.steps();
        for (int i = 0; i + 1 < steps.size(); i++) {
            if (steps.get(i).out() != steps.get(i + 1).in()) {
                return Optional.of("Step " + (i + 1) + " gave " + steps.get(i).out() + " rows, but "
                        + steps.get(i + 1).in() + " came to the next.");
            }
        }
        for (Counts write : tally.writes()) {
            if (!steps.isEmpty() && write.taken() > steps.getLast().out()) {
                return Optional.of(steps.getLast().out()
                        + " rows came to the writes, but the outcomes of one add up to " + write.taken() + ".");
            }
        }
        return Optional.empty();
    }
}

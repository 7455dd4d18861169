package dev.nachlauf.core.step;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;

/**
 * What rows add up to in one figure.
 *
 * @param sum the sum; empty cells add nothing
 * @param unread rows of which the figure could not be read, so that they are missing in the sum
 */
public record Amount(BigDecimal sum, long unread) {
    /** Of no rows. */
    public static final Amount NONE = new Amount(BigDecimal.ZERO, 0);

    /** Of a row whose figure can't be read. */
    public static final Amount UNREAD = new Amount(BigDecimal.ZERO, 1);

    /** The sum of both. */
    public Amount plus(Amount other) {
        return other == NONE ? this : new Amount(sum.add(other.sum), unread + other.unread);
    }

    /** The sums of two rows in the same figures; a row that has none adds nothing. */
    public static List<Amount> plus(List<Amount> some, List<Amount> others) {
        if (some.isEmpty() || others.isEmpty()) {
            return some.isEmpty() ? others : some;
        }
        List<Amount> sums = new ArrayList<>(some.size());
        for (int i = 0; i < some.size(); i++) {
            sums.add(some.get(i).plus(others.get(i)));
        }
        return sums;
    }
}

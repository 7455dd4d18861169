package dev.nachlauf.core.step;

import java.util.List;
import java.util.function.IntPredicate;

/** Chooses the rows that stand for their groups, where rows fail alone. */
public final class Leaders {
    private Leaders() {}

    /**
     * Lets the first row of each group lead it that goes on.
     *
     * @param rows those of a group stand together
     * @param goesOn whether the row at a place goes on
     */
    public static void choose(List<FlowRow> rows, IntPredicate goesOn) {
        boolean found = false;
        for (int at = 0; at < rows.size(); at++) {
            found &= at > 0 && rows.get(at).group() == rows.get(at - 1).group();
            boolean leads = !found && goesOn.test(at);
            rows.get(at).lead(leads);
            found |= leads;
        }
    }
}

package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Grouping;
import java.util.HashSet;
import java.util.Set;

/**
 * Which lines of a ledger are refused. A row is refused in all of its writes, and its group with it. Where lines fail
 * alone, only the row that leads its group takes the others along: they stand under what is written from it.
 */
final class RefusedLines {
    private final boolean alone;
    private final Set<Long> rows = new HashSet<>();
    private final Set<Long> groups = new HashSet<>();

    RefusedLines(LedgerWrites writes) {
        this.alone = writes.grouping() == Grouping.LINES_ALONE;
    }

    void add(LedgerRow line) {
        rows.add(line.position());
        if (!alone || line.position() == line.group()) {
            groups.add(line.group());
        }
    }

    boolean has(LedgerRow line) {
        return groups.contains(line.group()) || rows.contains(line.position());
    }

    /** Grows with every line that makes more of them refused. */
    int size() {
        return rows.size();
    }

    /** With what a line is refused: its group, or its row where lines fail alone. */
    long bond(LedgerRow line) {
        return alone ? line.position() : line.group();
    }
}

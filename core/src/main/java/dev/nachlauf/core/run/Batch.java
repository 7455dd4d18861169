package dev.nachlauf.core.run;

import dev.nachlauf.core.step.TargetRow;
import java.util.List;

/** Consecutive source rows that are written together. */
record Batch(int number, List<TargetRow> rows) {
    long firstRow() {
        return rows.getFirst().source().number();
    }

    long lastRow() {
        return rows.getLast().source().number();
    }
}

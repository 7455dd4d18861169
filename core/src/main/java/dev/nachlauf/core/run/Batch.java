package dev.nachlauf.core.run;

import dev.nachlauf.core.step.TargetRow;
import java.util.List;

/** Consecutive rows that are written together. Groups are never cut. */
record Batch(int number, List<TargetRow> rows) {
    long firstRow() {
        return rows.getFirst().row().source().number();
    }

    /** For how many rows of the source the batch accounts. */
    long sourceRows() {
        return rows.stream().mapToLong(row -> row.row().stands()[0]).sum();
    }

    long lastRow() {
        return rows.getLast().row().source().number();
    }
}

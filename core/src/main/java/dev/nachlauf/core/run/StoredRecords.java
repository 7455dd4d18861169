package dev.nachlauf.core.run;

import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Target;

/** Where a plan finds the records that its rows meet. */
@FunctionalInterface
interface StoredRecords {
    /**
     * Finds the records with the keys of some rows of a write; see {@link Target#find}.
     *
     * @param which the rows that are asked about
     */
    void find(int write, RowBlock rows, int[] which, Target.Found found);
}

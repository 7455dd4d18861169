package dev.nachlauf.core.system;

import dev.nachlauf.core.record.RowBlock;

/** A target that keeps some values in a spelling of its own, such as those of a uuid, a document or a binary fraction. */
public interface Respells {
    /**
     * The rows with their values as the target would read them back, so that they can be compared with what is stored.
     *
     * @param rows values in the order of {@link TargetUse#fields}
     * @param which the rows that are asked about
     * @return the same block where nothing is spelled otherwise; else one with the same rows, in which a value that the
     *     target can't take is as it was sent
     */
    RowBlock respelled(RowBlock rows, int[] which);
}

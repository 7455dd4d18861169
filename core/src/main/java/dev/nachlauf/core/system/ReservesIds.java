package dev.nachlauf.core.system;

/** A target that can give ids to records before they are written. */
public interface ReservesIds {
    /**
     * Gives ids to new records; none where this record type has none to reserve.
     *
     * @param inserts rows of the set whose records are new
     */
    void reserve(ChangeSet changes, int[] inserts);
}

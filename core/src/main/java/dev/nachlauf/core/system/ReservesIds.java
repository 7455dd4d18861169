package dev.nachlauf.core.system;

/** A target that can give ids to records before they are written. */
public interface ReservesIds {
    /** Whether this record type has ids to reserve. */
    boolean hasIds();

    /**
     * Gives ids to new records; none where this record type has none to reserve.
     *
     * @param inserts rows of the set whose records are new
     */
    void reserve(ChangeSet changes, int[] inserts);
}

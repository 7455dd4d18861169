package dev.nachlauf.core.system;

/** A target that finds records by any of the written fields. */
public interface FindsAlike {
    /**
     * Finds the stored records that agree with rows in some fields; what is empty agrees with what is empty.
     *
     * @param changes as the target would spell them
     * @param which the rows that are asked about
     * @param fields the places of the fields
     * @param found takes one record of each row that has any
     */
    void alike(ChangeSet changes, int[] which, int[] fields, Target.Found found);
}

package dev.nachlauf.core.system;

/**
 * What people say of a target's field beyond its catalogue.
 *
 * @param written whether jobs may write it
 * @param sensitive whether its values are kept from those who look at ledgers and rejects
 * @param label its name for people; empty where there is none
 * @param help what it is for; empty where nothing is said
 */
public record FieldMark(boolean written, boolean sensitive, String label, String help) {
    /** Nothing said. */
    public static final FieldMark NONE = new FieldMark(true, false, "", "");
}

package dev.nachlauf.core.system;

/**
 * An option of a format as it is in force.
 *
 * @param confidence from 0 to 1; 1 for what was stated
 * @param evidence what it was concluded from, for people
 */
public record Detected(String option, String value, double confidence, String evidence) {
    /** The evidence of what nobody stated and nothing speaks against. */
    public static final String USUAL = "the usual";

    /** An option that the job states. */
    public static Detected stated(String option, String value) {
        return new Detected(option, value, 1, "stated");
    }

    /** An option that nobody stated and nothing speaks against. */
    public static Detected usual(String option, String value) {
        return new Detected(option, value, 1, USUAL);
    }
}

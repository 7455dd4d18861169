package dev.nachlauf.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a source holds.
 *
 * @param broken rows that the reader found something wrong with; they count in no field
 * @param remarks what fields have to do with each other
 * @param advice candidate keys against the target, best first; empty where no target was named
 * @param failures why reading ended before the source did; empty where it didn't
 */
public record ProfileView(
        String name,
        long rows,
        long broken,
        List<FieldProfileView> fields,
        List<RemarkView> remarks,
        List<KeyView> keys,
        List<KeyAdviceView> advice,
        List<ProblemView> failures) {
    /** A value or the shape of values, and in how many rows it stands. */
    public record ValueCountView(String value, long count) {}

    /** A value that breaks the guessed kind, and where it stands. */
    public record MisfitView(String value, String place) {}

    /** Something that concerns several fields: equal, constant or swapped. */
    public record RemarkView(String about, List<String> fields, String sentence) {}

    /**
     * Figures of one field.
     *
     * @param blank rows that are empty or hold nothing but spaces
     * @param distinct an estimate unless {@code distinctExact}
     * @param smallest and {@code largest}: in the order of the guessed kind
     * @param shortest and {@code longest}: lengths in characters
     * @param commonest with counts that are at least so high unless {@code commonestExact}
     * @param shapes what values look like, such as AA-999
     * @param misfits how many values are not of the guessed kind
     * @param spellings groups of values that probably mean the same
     */
    public record FieldProfileView(
            String name,
            String kind,
            @Nullable String pattern,
            @Nullable String locale,
            String question,
            long filled,
            long blank,
            long distinct,
            boolean distinctExact,
            @Nullable String smallest,
            @Nullable String largest,
            long shortest,
            long longest,
            List<ValueCountView> commonest,
            boolean commonestExact,
            List<ValueCountView> shapes,
            long misfits,
            List<MisfitView> examples,
            List<List<ValueCountView>> spellings) {}

    /**
     * Whether fields together tell rows apart.
     *
     * @param filled rows in which none of them is blank
     * @param repeated rows whose key stands in another row too
     * @param examples the keys that stand most often
     */
    public record KeyView(List<String> fields, long filled, long distinct, long repeated, List<RepeatView> examples) {}

    /** A key, how often it stands, and the first of its rows. */
    public record RepeatView(String key, long count, List<Long> rows) {}

    /**
     * A candidate key against a target.
     *
     * @param source the source's fields in the order of {@code target}
     * @param formula what the source's values need to be found; empty where they are taken as they are
     * @param keptUnique whether the target itself keeps these fields unique
     * @param insert and {@code update}, {@code ambiguous}, {@code unusable}: what different keys would become
     * @param score from 0 to 1
     */
    public record KeyAdviceView(
            List<String> source,
            List<String> target,
            String formula,
            boolean keptUnique,
            KeyView key,
            long insert,
            long update,
            long ambiguous,
            long unusable,
            List<String> notFound,
            List<String> severalFound,
            double score) {}
}

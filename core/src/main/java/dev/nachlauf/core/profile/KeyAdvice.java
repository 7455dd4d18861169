package dev.nachlauf.core.profile;

import java.util.List;

/**
 * How well some fields of a source would find their records in a target.
 *
 * @param source the source's fields, in the order of {@code target}
 * @param target the target's fields
 * @param formula what the source's values need to be found; empty where they are taken as they are
 * @param keptUnique whether the target itself keeps these fields unique
 * @param rows all rows of the source
 * @param key the key's own figures
 * @param insert different keys that the target doesn't hold
 * @param update different keys that the target holds once
 * @param ambiguous different keys that the target holds several times
 * @param unusable different keys that are no value of the target's fields
 * @param notFound examples of keys that the target doesn't hold
 * @param severalFound examples of keys that the target holds several times
 */
public record KeyAdvice(
        List<String> source,
        List<String> target,
        String formula,
        boolean keptUnique,
        long rows,
        KeyFigures key,
        long insert,
        long update,
        long ambiguous,
        long unusable,
        List<String> notFound,
        List<String> severalFound) {

    /** From 0 to 1: filled and unique rows count most, then what the target already knows by this key. */
    public double score() {
        if (rows == 0 || key.distinct() == 0) {
            return 0;
        }
        double filled = (double) key.filled() / rows;
        double unique = 1 - (double) key.repeated() / key.filled();
        double clear = 1 - (double) (ambiguous + unusable) / key.distinct();
        double found = (double) update / key.distinct();
        double score = filled * unique * clear * (0.4 + 0.4 * found + (keptUnique ? 0.2 : 0));
        return Math.round(score * 1000) / 1000.0;
    }
}

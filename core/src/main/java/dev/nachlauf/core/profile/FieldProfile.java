package dev.nachlauf.core.profile;

import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.source.Guess;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Figures of one field. Values are given in their canonical text.
 *
 * @param filled rows that hold a value of it
 * @param blank rows that hold none: empty, or nothing but spaces
 * @param distinct different values; an estimate unless {@code distinctExact}
 * @param smallest and {@code largest}: in the order of the guessed kind; null where no value is of it
 * @param shortest and {@code longest}: lengths in characters; 0 where there is no value
 * @param commonest with counts that are at least so high unless {@code commonestExact}
 * @param shapes what values look like, such as {@code AA-999}
 * @param misfits values that are not of the guessed kind, and where the first of them stand
 * @param spellings groups of values that probably mean the same
 */
public record FieldProfile(
        SourceField field,
        Guess guess,
        long filled,
        long blank,
        long distinct,
        boolean distinctExact,
        @Nullable String smallest,
        @Nullable String largest,
        long shortest,
        long longest,
        List<ValueCount> commonest,
        boolean commonestExact,
        List<ValueCount> shapes,
        long misfits,
        List<Misfit> examples,
        List<List<ValueCount>> spellings) {
    /** A value that breaks the guessed kind, and where it stands. */
    public record Misfit(String value, String place) {}

    /** The one value of a field that is always the same. */
    public Optional<String> constant() {
        return distinct == 1 && distinctExact && blank == 0 && filled > 1
                ? Optional.of(commonest.getFirst().value())
                : Optional.empty();
    }
}

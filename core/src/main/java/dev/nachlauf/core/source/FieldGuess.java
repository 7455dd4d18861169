package dev.nachlauf.core.source;

import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Guesses how a field is read from a sample of its cells. Nothing is lost by a guess: what contradicts it later is
 * rejected with its place. Digits that are a name rather than a number (leading zeros, a leading plus, more digits than
 * anybody reckons with) stay text, and what can be read in two ways is asked for.
 */
public final class FieldGuess {
    private static final Pattern A_NAME_OF_DIGITS = Pattern.compile("0\\d+|\\+\\d+|\\d{16,}");
    /** From so many values on a few may contradict. */
    private static final int ENOUGH = 20;

    private static final double MOST = 0.95;

    private static final Pattern CROSS = Pattern.compile("[xX]");
    private static final Pattern ZERO_OR_ONE = Pattern.compile("[01]");

    private final List<Candidate> candidates = Candidate.all();
    private boolean unreadable;
    private long filled;
    private long blank;
    private long crosses;
    private long zeros;
    private long codes;
    private String code = "";

    /** Takes one cell of the sample into account. */
    public void add(@Nullable Object cell) {
        if (cell == null || cell instanceof String text && text.isBlank()) {
            blank++;
            return;
        }
        filled++;
        String written = String.valueOf(Values.text(cell)).strip();
        crosses += CROSS.matcher(written).matches() ? 1 : 0;
        zeros += ZERO_OR_ONE.matcher(written).matches() ? 1 : 0;
        if (cell instanceof String text
                && A_NAME_OF_DIGITS.matcher(text.strip()).matches()) {
            codes++;
            code = text;
        }
        candidates.forEach(candidate -> candidate.add(cell));
    }

    /** A row of the sample is damaged: its cells can't be told apart, so nothing is known of this one. */
    public void unreadable() {
        unreadable = true;
    }

    /** What the cells so far suggest. */
    public Guess guess() {
        if (filled == 0) {
            return Guess.text(
                    0,
                    unreadable
                            ? "no row of the sample that can be read has a value of it"
                            : "the sample has no value of it");
        }
        if (codes > 0) {
            return Guess.text(
                    certainty(1),
                    codes + " of " + filled + " values are digits that don't count, such as '" + Values.shortened(code)
                            + "'");
        }
        if (crosses == filled && blank > 0) {
            return new Guess(
                    Reading.TEXT,
                    certainty(0.5),
                    "all " + filled + " values are x, the others are empty",
                    "x and nothing can be truths: is: boolean, true: [x], false: [''].");
        }
        List<Candidate> best = best();
        return best.isEmpty()
                ? Guess.text(certainty(1), "its " + filled + " values are neither numbers nor dates")
                : among(best);
    }

    private Guess among(List<Candidate> best) {
        Candidate first = best.getFirst();
        List<Candidate> others = new ArrayList<>();
        for (Candidate candidate : best) {
            if (first.contradicts(candidate)
                    && !candidate.isUnlikely()
                    && others.stream().noneMatch(candidate::agreesWith)) {
                others.add(candidate);
            }
        }
        return others.isEmpty()
                ? new Guess(first.reading(), certainty((double) first.hits() / filled), evidence(first), "")
                : new Guess(
                        Reading.TEXT,
                        certainty(1.0 / (1 + others.size())),
                        "all " + filled + " values can be read in several ways",
                        question(first, others));
    }

    private static String question(Candidate first, List<Candidate> others) {
        String cell = Candidate.difference(first, others.getFirst());
        List<String> readings = new ArrayList<>(List.of(first.reads(cell)));
        others.forEach(other -> readings.add(other.reads(cell)));
        return "'" + cell + "' can be " + String.join(" or ", readings) + ".";
    }

    private List<Candidate> best() {
        long most = candidates.stream().mapToLong(Candidate::hits).max().orElse(0);
        boolean enough = filled >= ENOUGH ? most >= MOST * filled : most == filled;
        return enough
                ? candidates.stream()
                        .filter(candidate -> candidate.hits() == most)
                        .sorted(Comparator.comparing(candidate -> !isWhole(candidate)))
                        .toList()
                : List.of();
    }

    /** Of two readings that fit a whole number, the integer is the plainer one. The sort is stable. */
    private static boolean isWhole(Candidate candidate) {
        return candidate.reading().kind() != Kind.DECIMAL;
    }

    private String evidence(Candidate candidate) {
        String evidence = candidate.hits() + " of " + filled + " values are " + candidate.words();
        if (candidate.hits() < filled) {
            return evidence + "; not " + String.join(", ", candidate.misses());
        }
        return zeros == filled && candidate.reading().kind() == Kind.INTEGER
                ? evidence + ", all 0 or 1: truths where the job says is: boolean, true: ['1'], false: ['0']"
                : evidence;
    }

    /** A few values convince less than many. */
    private double certainty(double share) {
        return Math.round(share * (1 - 1 / (filled + 2.0)) * 1000) / 1000.0;
    }
}

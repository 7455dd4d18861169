package dev.nachlauf.core.suggest;

import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * Pairs of fields by score: how alike the names are, how many of the source's values the target holds, and whether the
 * kinds go together. Values count only where both sides have some; few different values count less, for yes and no occur
 * everywhere.
 */
public final class Suggester {
    private static final double LEAST_SCORE = 0.4;
    private static final double LIKE_WORDS = 0.75;
    private static final int FEW_VALUES = 5;
    private static final double SAME_KIND = 1;
    private static final double READABLE_KIND = 0.7;

    private Suggester() {}

    /**
     * A field with some of its values.
     *
     * @param values canonical texts of different values; a sample
     */
    public record Sampled(String name, Kind kind, Set<String> values) {
        public Sampled {
            values = Set.copyOf(values);
        }
    }

    /**
     * A suggestion.
     *
     * @param score from 0 to 1
     * @param evidence sentences for people
     */
    public record Suggestion(String source, String target, double score, List<String> evidence) {}

    /** The best pair for each field, best first; every field stands in one pair at most. */
    public static List<Suggestion> suggest(List<Sampled> source, List<Sampled> target) {
        List<Suggestion> all = new ArrayList<>();
        for (Sampled from : source) {
            for (Sampled to : target) {
                Suggestion pair = pair(from, to);
                if (pair.score >= LEAST_SCORE) {
                    all.add(pair);
                }
            }
        }
        all.sort(Comparator.comparingDouble(Suggestion::score)
                .reversed()
                .thenComparing(Suggestion::source)
                .thenComparing(Suggestion::target));
        Set<String> taken = new HashSet<>();
        Set<String> given = new HashSet<>();
        List<Suggestion> best = new ArrayList<>();
        for (Suggestion pair : all) {
            if (!taken.contains(pair.target) && !given.contains(pair.source)) {
                best.add(pair);
                taken.add(pair.target);
                given.add(pair.source);
            }
        }
        return best;
    }

    private static Suggestion pair(Sampled from, Sampled to) {
        List<String> evidence = new ArrayList<>();
        double names = names(from.name, to.name);
        evidence.add("names " + percent(names) + " alike");
        double kinds = kinds(from, to);
        evidence.add(
                from.kind == to.kind
                        ? "both " + to.kind.word()
                        : from.kind.word() + (kinds > 0 ? " reads as " : " is not ") + to.kind.word());
        if (from.values.isEmpty() || to.values.isEmpty()) {
            return new Suggestion(from.name, to.name, rounded(0.8 * names + 0.2 * kinds), evidence);
        }
        double overlap = overlap(from, to);
        double weight = from.values.size() < FEW_VALUES ? 0.15 : 0.4;
        evidence.add(percent(overlap) + " of its values are there");
        double score = (0.85 - weight) * names + weight * overlap + 0.15 * kinds;
        return new Suggestion(from.name, to.name, rounded(kinds == 0 ? score / 2 : score), evidence);
    }

    private static String percent(double share) {
        return Math.round(share * 100) + " %";
    }

    private static double rounded(double score) {
        return Math.round(score * 100) / 100.0;
    }

    /** The share of words that both names have, each counted as far as it is alike. */
    static double names(String a, String b) {
        List<String> first = Words.of(a);
        List<String> second = Words.of(b);
        if (first.isEmpty() || second.isEmpty()) {
            return 0;
        }
        double shared = 0;
        List<String> left = new ArrayList<>(second);
        for (String word : first) {
            String best = left.stream()
                    .max(Comparator.comparingDouble(other -> alike(word, other)))
                    .orElse("");
            double likeness = best.isEmpty() ? 0 : alike(word, best);
            if (likeness >= LIKE_WORDS) {
                shared += likeness;
                left.remove(best);
            }
        }
        return 2 * shared / (first.size() + second.size());
    }

    /** A word that starts with another is an abbreviation's long form; else by edit distance. */
    private static double alike(String a, String b) {
        if (a.equals(b)) {
            return 1;
        }
        int shorter = Math.min(a.length(), b.length());
        int longer = Math.max(a.length(), b.length());
        if (shorter >= 3 && (a.startsWith(b) || b.startsWith(a))) {
            return 0.85;
        }
        return 1 - distance(a, b) / (double) longer;
    }

    private static int distance(String a, String b) {
        int[] last = new int[b.length() + 1];
        for (int j = 0; j <= b.length(); j++) {
            last[j] = j;
        }
        for (int i = 1; i <= a.length(); i++) {
            int[] current = new int[b.length() + 1];
            current[0] = i;
            for (int j = 1; j <= b.length(); j++) {
                int cost = a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1;
                current[j] = Math.min(Math.min(current[j - 1], last[j]) + 1, last[j - 1] + cost);
            }
            last = current;
        }
        return last[b.length()];
    }

    private static double kinds(Sampled from, Sampled to) {
        if (from.kind == to.kind || from.kind.isNumber() && to.kind.isNumber()) {
            return SAME_KIND;
        }
        if (to.kind == Kind.TEXT) {
            return READABLE_KIND;
        }
        if (from.kind != Kind.TEXT) {
            return 0;
        }
        TextParser parser = TextParser.of(to.kind, null, null);
        long readable =
                from.values.stream().filter(value -> reads(parser, value)).count();
        // words such as yes and no, or codes to be translated, may become anything
        return from.values.isEmpty() || readable > 0 || from.values.size() < FEW_VALUES ? READABLE_KIND : 0.3;
    }

    private static boolean reads(TextParser parser, String value) {
        try {
            parser.parse(value);
            return true;
        } catch (ValueProblem e) {
            return false;
        }
    }

    private static double overlap(Sampled from, Sampled to) {
        Set<String> there = new HashSet<>();
        to.values.forEach(value -> there.add(folded(value)));
        long found = from.values.stream()
                .filter(value -> there.contains(folded(value)))
                .count();
        return found / (double) from.values.size();
    }

    private static String folded(String value) {
        return value.strip()
                .toUpperCase(Locale.ROOT)
                .replaceAll("(\\.\\d*?)0+$", "$1")
                .replaceAll("\\.$", "");
    }
}

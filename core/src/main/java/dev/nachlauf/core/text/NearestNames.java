package dev.nachlauf.core.text;

import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;

/** The names that somebody who wrote a wrong one probably meant. */
public final class NearestNames {
    private static final int MOST = 3;
    /** Longer ones are no slips of the pen, and would cost the square of their length. */
    private static final int LONGEST = 100;

    private NearestNames() {}

    /**
     * At most three known names within an edit distance (with swaps of neighbours) of a third of the wrong name's
     * length, at least 1; nearest first, ties by name; empty when nothing is near.
     */
    public static List<String> of(String wrong, Collection<String> known) {
        if (wrong.length() > LONGEST) {
            return List.of();
        }
        int reach = Math.max(1, wrong.length() / 3);
        record Near(String name, int distance) {}
        return known.stream()
                .distinct()
                // the lengths alone keep them further apart
                .filter(name -> Math.abs(name.length() - wrong.length()) <= reach)
                .map(name -> new Near(name, distance(fold(wrong), fold(name))))
                .filter(near -> near.distance <= reach)
                .sorted(Comparator.comparingInt(Near::distance).thenComparing(Near::name))
                .limit(MOST)
                .map(Near::name)
                .toList();
    }

    /** A sentence that offers the nearest names, or {@code otherwise} when nothing is near. */
    public static String suggestion(String wrong, Collection<String> known, String otherwise) {
        List<String> near = of(wrong, known);
        return near.isEmpty() ? otherwise : "Did you mean " + String.join(" or ", near) + "?";
    }

    private static String fold(String name) {
        return name.toLowerCase(Locale.ROOT).replace('-', '_');
    }

    /** Optimal string alignment: insert, delete, replace, swap neighbours; three rows of the table suffice. */
    static int distance(String a, String b) {
        int[] beforeLast = new int[b.length() + 1];
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
                if (i > 1 && j > 1 && a.charAt(i - 1) == b.charAt(j - 2) && a.charAt(i - 2) == b.charAt(j - 1)) {
                    current[j] = Math.min(current[j], beforeLast[j - 2] + 1);
                }
            }
            beforeLast = last;
            last = current;
        }
        return last[b.length()];
    }
}

package dev.nachlauf.core.value;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Truths as people write them: words for true and words for false, in any case. As a pattern they are {@code ja,x/nein};
 * an empty word ({@code x/}) is what an empty cell means.
 */
public final class TruthText implements TextParser {
    private static final String BETWEEN_WORDS = ",";
    private static final String BETWEEN_LISTS = "/";

    private final Map<String, Boolean> words = new HashMap<>();
    private final String expected;

    private TruthText(List<String> yes, List<String> no) {
        yes.forEach(word -> put(word, true));
        no.forEach(word -> put(word, false));
        expected = "one of " + shown(yes) + " (true) or " + shown(no) + " (false)";
    }

    private static String shown(List<String> words) {
        return words.stream().map(word -> word.isBlank() ? "nothing" : word).collect(Collectors.joining(", "));
    }

    private void put(String word, boolean truth) {
        Boolean other = words.put(word.strip().toLowerCase(Locale.ROOT), truth);
        if (other != null && other != truth) {
            throw new IllegalArgumentException("'" + word + "' can't be true and false");
        }
    }

    /**
     * The parser for a pattern.
     *
     * @throws IllegalArgumentException where it is none, or a word stands on both sides
     */
    static TextParser of(String pattern) {
        String[] lists = pattern.split(BETWEEN_LISTS, -1);
        if (lists.length != 2 || pattern.equals(BETWEEN_LISTS)) {
            throw new IllegalArgumentException("not words for true, a slash, and words for false");
        }
        return new TruthText(List.of(lists[0].split(BETWEEN_WORDS, -1)), List.of(lists[1].split(BETWEEN_WORDS, -1)));
    }

    /** The pattern of some words. */
    public static String pattern(List<String> yes, List<String> no) {
        return String.join(BETWEEN_WORDS, yes) + BETWEEN_LISTS + String.join(BETWEEN_WORDS, no);
    }

    /** Whether a word can stand in a pattern. */
    public static boolean isWord(String word) {
        return !word.contains(BETWEEN_WORDS) && !word.contains(BETWEEN_LISTS);
    }

    @Override
    public Object parse(String text) {
        Boolean truth = words.get(text.strip().toLowerCase(Locale.ROOT));
        if (truth == null) {
            throw ValueProblem.malformed(text, expected);
        }
        return truth;
    }

    @Override
    public @Nullable Object empty() {
        return words.get("");
    }
}

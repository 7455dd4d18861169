package dev.nachlauf.core.profile;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Pattern;

/**
 * Values that probably mean the same and are only spelled differently: alike without case, accents, marks, doubled spaces
 * and the order of words.
 */
final class Spellings {
    private static final int MOST_GROUPS = 10;
    private static final Pattern ACCENTS = Pattern.compile("\\p{M}+");
    private static final Pattern MARKS = Pattern.compile("[^\\p{L}\\p{N}]+");

    private Spellings() {}

    /** Groups of at least two spellings, the commonest spelling of a group first. */
    static List<List<ValueCount>> groups(List<ValueCount> values) {
        Map<String, List<ValueCount>> groups = new LinkedHashMap<>();
        for (ValueCount value : values) {
            String essence = essence(value.value());
            if (!essence.isEmpty()) {
                groups.computeIfAbsent(essence, key -> new ArrayList<>()).add(value);
            }
        }
        return groups.values().stream()
                .filter(group -> group.size() > 1)
                .limit(MOST_GROUPS)
                .toList();
    }

    /** What is left of a value when only its words count. Values without letters have no spelling. */
    static String essence(String value) {
        if (value.chars().noneMatch(Character::isLetter)) {
            return "";
        }
        String folded = ACCENTS.matcher(Normalizer.normalize(value, Normalizer.Form.NFD))
                .replaceAll("")
                .toLowerCase(Locale.ROOT)
                .replace("ß", "ss");
        String[] words = MARKS.split(folded.strip());
        Arrays.sort(words);
        return String.join(" ", words).strip();
    }
}

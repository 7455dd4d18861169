package dev.nachlauf.core.crosswalk;

import dev.nachlauf.core.crosswalk.Crosswalk.Entry;
import dev.nachlauf.core.crosswalk.Crosswalk.From;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.math.BigDecimal;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Ranges of numbers that don't overlap, found by their start. */
final class Ranges {
    private static final BigDecimal LEAST = BigDecimal.TEN.pow(1_001).negate();
    private static final TextParser NUMBER = TextParser.of(Kind.DECIMAL, null, null);

    private final TreeMap<BigDecimal, Placed> byStart = new TreeMap<>();

    private record Placed(From.Range range, Entry entry) {}

    /** Adds a range; the entry whose range overlaps it, or null. */
    @Nullable
    Entry add(From.Range range, Entry entry) {
        BigDecimal start = range.least() == null ? LEAST : range.least();
        Map.Entry<BigDecimal, Placed> before = byStart.floorEntry(start);
        if (before != null && contains(before.getValue().range, start)) {
            return before.getValue().entry;
        }
        Map.Entry<BigDecimal, Placed> after = byStart.higherEntry(start);
        if (after != null && contains(range, after.getKey())) {
            return after.getValue().entry;
        }
        byStart.put(start, new Placed(range, entry));
        return null;
    }

    private static boolean contains(From.Range range, BigDecimal number) {
        return (range.least() == null || number.compareTo(range.least()) >= 0)
                && (range.most() == null || number.compareTo(range.most()) <= 0);
    }

    /** The entry whose range holds a number; null where there is none, or the text is no number. */
    @Nullable
    Entry find(String text) {
        if (byStart.isEmpty()) {
            return null;
        }
        try {
            BigDecimal number = (BigDecimal) NUMBER.parse(text);
            Map.Entry<BigDecimal, Placed> placed = byStart.floorEntry(number);
            return placed != null && contains(placed.getValue().range, number) ? placed.getValue().entry : null;
        } catch (ValueProblem e) {
            return null;
        }
    }
}

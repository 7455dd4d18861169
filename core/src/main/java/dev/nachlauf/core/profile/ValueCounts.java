package dev.nachlauf.core.profile;

import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * How often values stand, in bounded memory. Up to the bound every count is exact. Beyond it rare values make room (every
 * count is lowered by one and what reaches zero leaves), so common values stay, with counts that are at least so high.
 */
final class ValueCounts {
    private static final int LONGEST = 200;

    private final int most;
    private final Map<String, long[]> counts = new HashMap<>();
    private boolean exact = true;

    ValueCounts(int most) {
        this.most = most;
    }

    void add(String value) {
        String key = value.length() <= LONGEST ? value : value.substring(0, LONGEST) + "…";
        long[] count = counts.get(key);
        if (count != null) {
            count[0]++;
            return;
        }
        if (counts.size() == most) {
            exact = false;
            counts.values().removeIf(rare -> --rare[0] == 0);
            if (counts.size() == most) {
                return;
            }
        }
        counts.put(key, new long[] {1});
    }

    boolean exact() {
        return exact;
    }

    /** All values that are held, the commonest first; of equally common ones the first by its text. */
    List<ValueCount> commonest(int limit) {
        return counts.entrySet().stream()
                .map(entry -> new ValueCount(entry.getKey(), entry.getValue()[0]))
                .sorted(Comparator.comparingLong(ValueCount::count).reversed().thenComparing(ValueCount::value))
                .limit(limit)
                .toList();
    }
}

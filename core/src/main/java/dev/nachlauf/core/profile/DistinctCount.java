package dev.nachlauf.core.profile;

import com.dynatrace.hash4j.distinctcount.UltraLogLog;
import com.dynatrace.hash4j.hashing.Hasher64;
import com.dynatrace.hash4j.hashing.Hashing;
import java.util.HashSet;
import java.util.Set;

/** How many different values there are: exact up to a bound, beyond it estimated with an error of about 1 %. */
final class DistinctCount {
    /** Up to so many different values are counted exactly. */
    static final int EXACT = 20_000;

    private static final int PRECISION = 13;
    private static final Hasher64 HASH = Hashing.komihash5_0();

    private final Set<Long> seen = new HashSet<>();
    private final UltraLogLog sketch = UltraLogLog.create(PRECISION);
    private boolean exact = true;

    void add(String value) {
        long hash = HASH.hashCharsToLong(value);
        sketch.add(hash);
        if (exact) {
            seen.add(hash);
            if (seen.size() > EXACT) {
                exact = false;
                seen.clear();
            }
        }
    }

    boolean exact() {
        return exact;
    }

    long count() {
        return exact ? seen.size() : Math.round(sketch.getDistinctCountEstimate());
    }
}

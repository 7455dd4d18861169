package dev.nachlauf.core.run;

import dev.nachlauf.core.record.KeyBytes;
import dev.nachlauf.core.spool.RepeatedKeys;
import dev.nachlauf.core.system.ComparesKeys;
import java.util.ArrayList;
import java.util.List;

/** Keys of which only the target knows which are equal: they are asked for many at once, and noted by its answer. */
final class OwnKeys {
    private static final int AT_ONCE = 5_000;

    private final ComparesKeys target;
    private final RepeatedKeys repeated;
    private final List<Object[]> keys = new ArrayList<>();
    private final List<long[]> rows = new ArrayList<>();

    OwnKeys(ComparesKeys target, RepeatedKeys repeated) {
        this.target = target;
        this.repeated = repeated;
    }

    void add(Object[] key, long row, long shown) {
        keys.add(key);
        rows.add(new long[] {row, shown});
        if (keys.size() == AT_ONCE) {
            ask();
        }
    }

    /** Notes what is left. */
    void ask() {
        if (keys.isEmpty()) {
            return;
        }
        List<Long> classes = target.classes(keys);
        for (int i = 0; i < classes.size(); i++) {
            // one that the target can't even read equals no other, and its row is refused when it is written
            if (classes.get(i) != ComparesKeys.NONE) {
                repeated.add(KeyBytes.of(List.of(classes.get(i))), rows.get(i)[0], rows.get(i)[1]);
            }
        }
        keys.clear();
        rows.clear();
    }
}

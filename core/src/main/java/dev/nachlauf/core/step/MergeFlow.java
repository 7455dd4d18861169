package dev.nachlauf.core.step;

import dev.nachlauf.core.spool.KeyNumbers;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Rows that agree in some fields made into one, group by group, without sorting them: a first pass over the rows adds them
 * up, a second one puts what came of each group in the place of its first row. Where a row is rejected, its whole group
 * is, which the second pass knows too. Where there are more groups than memory is set aside for, the rows are sorted after
 * all.
 */
final class MergeFlow implements RowFlow {
    /** As many bytes the groups may take. */
    static final long MOST = Runtime.getRuntime().maxMemory() / 4;

    private static final int LOOK_EVERY = 1 << 12;

    private final Supplier<RowFlow> upstream;
    private final int step;
    private final int[] by;
    private final Supplier<Merging> merging;
    private final Function<RowFlow, RowFlow> sorted;
    private final Runnable pulse;
    private final long most;
    private RowFlow rows;
    private boolean added;
    /** Null before they are added up, and where they were too many. */
    private @Nullable Groups groups;

    /**
     * Merges rows.
     *
     * @param upstream gives the same rows each time, in the order of the source; no step has changed their number
     * @param sorted merges the rows of a flow by sorting them
     * @param most about how many bytes the groups may take
     */
    MergeFlow(
            Supplier<RowFlow> upstream,
            int step,
            List<Integer> by,
            Supplier<Merging> merging,
            Function<RowFlow, RowFlow> sorted,
            Runnable pulse,
            long most) {
        this.upstream = upstream;
        this.step = step;
        this.by = by.stream().mapToInt(Integer::intValue).toArray();
        this.merging = merging;
        this.sorted = sorted;
        this.pulse = pulse;
        this.most = most;
        this.rows = upstream.get();
    }

    /** What is known of the groups after the first pass. */
    private static final class Groups {
        private final KeyNumbers numbers = new KeyNumbers();
        private final Merging merging;
        /** The position of the first row of each; groups are numbered in the order of these. */
        private long[] first = new long[1 << 8];

        /** How many groups the second pass has met. */
        private int begun;

        /** The number of the first row that is rejected, of groups that have one. */
        private final Map<Integer, Long> because = new HashMap<>();

        Groups(Merging merging) {
            this.merging = merging;
        }

        void add(byte[] key, FlowRow row) {
            int group = number(key, row);
            if (row.isAlive()) {
                merging.add(group, row);
            } else {
                because.putIfAbsent(group, row.source().number());
            }
        }

        private int number(byte[] key, FlowRow row) {
            int before = numbers.count();
            int group = numbers.number(key);
            if (group == before) {
                if (group == first.length) {
                    first = Arrays.copyOf(first, group * 2);
                }
                first[group] = row.position();
            }
            return group;
        }

        /** The group of which a row of the second pass is the first one; NONE where it is another one. */
        int begins(FlowRow row) {
            return begun < numbers.count() && first[begun] == row.position() ? begun++ : KeyNumbers.NONE;
        }

        long bytes() {
            return merging.bytes() + numbers.bytes() + 8L * first.length + 80L * because.size();
        }
    }

    @Override
    public @Nullable FlowRow next() {
        if (!added) {
            added = true;
            groups = addUp();
            rows.close();
            rows = groups == null ? sorted.apply(upstream.get()) : upstream.get();
        }
        return groups == null ? rows.next() : next(groups);
    }

    /** Null where there are too many groups. */
    private @Nullable Groups addUp() {
        Groups all = new Groups(merging.get());
        long read = 0;
        for (FlowRow row = rows.next(); row != null; row = rows.next()) {
            pulse.run();
            byte[] key = key(row);
            if (key != null) {
                all.add(key, row);
            }
            if (++read % LOOK_EVERY == 0 && all.bytes() > most) {
                return null;
            }
        }
        return all;
    }

    private byte @Nullable [] key(FlowRow row) {
        return row.skipped() == null ? GroupFlow.agreement(row, 0, by) : null;
    }

    private @Nullable FlowRow next(Groups all) {
        for (FlowRow row = rows.next(); row != null; row = rows.next()) {
            pulse.run();
            if (row.skipped() != null || !GroupFlow.mayAgree(row, 0, by)) {
                return row;
            }
            int begun = all.begins(row);
            Long because = because(all, begun, row);
            if (because != null) {
                if (row.isAlive()) {
                    row.reject(step, GroupFlow.groupRejected(because));
                }
                return row;
            }
            if (begun != KeyNumbers.NONE) {
                return all.merging.made(begun, row);
            }
        }
        return null;
    }

    /** The number of the row that rejects the group of a row; null where none does. Only then a group is searched for. */
    private @Nullable Long because(Groups all, int begun, FlowRow row) {
        if (all.because.isEmpty()) {
            return null;
        }
        return all.because.get(begun == KeyNumbers.NONE ? all.numbers.find(Objects.requireNonNull(key(row))) : begun);
    }

    @Override
    public long read() {
        return rows.read();
    }

    @Override
    public void close() {
        rows.close();
    }
}

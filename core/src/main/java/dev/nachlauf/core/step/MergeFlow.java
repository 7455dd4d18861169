package dev.nachlauf.core.step;

import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Rows that agree in some fields made into one, group by group, in memory: no row is sorted, and made rows come in the
 * order in which their groups begin. Where a row is rejected, its whole group is: the rows of such groups are read once
 * more and treated as {@link GroupFlow} does. It does all the work where there are more groups than memory is set aside
 * for.
 */
final class MergeFlow implements RowFlow {
    /** About what a group takes beside its key and its first row. */
    private static final int OVERHEAD = 600;

    private static final long MOST = Runtime.getRuntime().maxMemory() / 6;

    private final Supplier<RowFlow> upstream;
    private final Grouping grouping;
    private final Supplier<Merger> mergers;
    private final Runnable pulse;
    private final long most;
    private final RowFlow rows;
    private final Map<ByteBuffer, Merger> groups = new LinkedHashMap<>();
    private final Set<ByteBuffer> rejected = new HashSet<>();
    private @Nullable OrderedRows result;

    /** What rows agree in, at which step. */
    record Grouping(int level, int step, List<Integer> by, GroupFlow.Treatment treatment, Path scratch) {
        private GroupFlow sorted(RowFlow rows, Runnable pulse) {
            return new GroupFlow(rows, level, step, by, treatment, scratch, pulse);
        }
    }

    /**
     * Merges rows.
     *
     * @param upstream gives the same rows each time, in the order of the source
     */
    MergeFlow(Supplier<RowFlow> upstream, Grouping grouping, Supplier<Merger> mergers, Runnable pulse) {
        this(upstream, grouping, mergers, pulse, MOST);
    }

    /** @param most about how many bytes the groups may take */
    MergeFlow(Supplier<RowFlow> upstream, Grouping grouping, Supplier<Merger> mergers, Runnable pulse, long most) {
        this.upstream = upstream;
        this.grouping = grouping;
        this.mergers = mergers;
        this.pulse = pulse;
        this.most = most;
        this.rows = upstream.get();
    }

    @Override
    public @Nullable FlowRow next() {
        if (result == null) {
            result = merged();
        }
        return result.next();
    }

    private OrderedRows merged() {
        OrderedRows ordered = new OrderedRows(grouping.scratch);
        long bytes = 0;
        int[] by = grouping.by.stream().mapToInt(Integer::intValue).toArray();
        for (FlowRow row = rows.next(); row != null; row = rows.next()) {
            pulse.run();
            byte[] key = row.skipped() == null ? GroupFlow.agreement(row, grouping.level, by) : null;
            if (key == null) {
                ordered.add(row);
                continue;
            }
            ByteBuffer group = ByteBuffer.wrap(key);
            if (!row.isAlive()) {
                rejected.add(group);
                continue;
            }
            Merger merger = groups.get(group);
            if (merger == null) {
                merger = mergers.get();
                merger.add(row);
                bytes += merger.pack() + key.length + OVERHEAD;
                groups.put(group, merger);
            } else {
                merger.add(row);
            }
            if (bytes + rejected.size() * (long) OVERHEAD > most) {
                return allSorted(ordered);
            }
        }
        rejected.forEach(groups::remove);
        ordered.add(groups.values().iterator());
        if (!rejected.isEmpty()) {
            ordered.add(grouping.sorted(new Chosen(upstream.get(), by), pulse));
        }
        return ordered;
    }

    private OrderedRows allSorted(OrderedRows begun) {
        begun.close();
        groups.clear();
        rejected.clear();
        OrderedRows ordered = new OrderedRows(grouping.scratch);
        ordered.add(grouping.sorted(upstream.get(), pulse));
        return ordered;
    }

    /** The rows of rejected groups alone. */
    private final class Chosen implements RowFlow {
        private final RowFlow all;
        private final int[] by;

        Chosen(RowFlow all, int[] by) {
            this.all = all;
            this.by = by;
        }

        @Override
        public @Nullable FlowRow next() {
            for (FlowRow row = all.next(); row != null; row = all.next()) {
                pulse.run();
                byte[] key = row.skipped() == null ? GroupFlow.agreement(row, grouping.level, by) : null;
                if (key != null && rejected.contains(ByteBuffer.wrap(key))) {
                    return row;
                }
            }
            return null;
        }

        @Override
        public long read() {
            return all.read();
        }

        @Override
        public void close() {
            all.close();
        }
    }

    @Override
    public long read() {
        return Math.max(rows.read(), result == null ? 0 : result.read());
    }

    @Override
    public void close() {
        rows.close();
        if (result != null) {
            result.close();
        }
    }
}

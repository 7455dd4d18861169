package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.ValueCodec;
import dev.nachlauf.core.spool.ExternalSort;
import java.math.BigDecimal;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Rows that agree in some fields, treated together: they are sorted by these fields, go through a {@link Treatment} group
 * by group, and are put into the order of the source again. What does not fit into memory waits on disk. A rejected row
 * rejects its whole group, for a sum of a part would be a wrong sum, unless the treatment takes such groups.
 */
final class GroupFlow implements RowFlow {
    /** Rejected rows stand first in their group, so that what follows knows. */
    private static final byte REJECTED = 0;

    private static final byte SOUND = 1;

    private final RowFlow rows;
    private final int level;
    private final int step;
    private final int[] by;
    private final Treatment treatment;
    private final Runnable pulse;
    private final ExternalSort groups;
    private final ExternalSort ordered;
    private @Nullable Iterator<ExternalSort.Entry> result;

    GroupFlow(RowFlow rows, int level, int step, List<Integer> by, Treatment treatment, Path scratch, Runnable pulse) {
        this.pulse = pulse;
        this.rows = rows;
        this.level = level;
        this.step = step;
        this.by = by.stream().mapToInt(Integer::intValue).toArray();
        this.treatment = treatment;
        this.groups = new ExternalSort(scratch);
        this.ordered = new ExternalSort(scratch);
    }

    /** What becomes of rows that agree. */
    interface Treatment {
        /** Looks at a row before it is sorted, and may reject it. */
        default void before(FlowRow row) {
            // most treatments take every row
        }

        /** Whether it takes groups of which a row is rejected. */
        default boolean takesRejected() {
            return false;
        }

        /** Whether the rows of a group stay together behind the step. */
        default boolean keepsTogether() {
            return false;
        }

        /** Takes the rows of a group: rejected ones first, otherwise in the order of the source. */
        void group(Iterator<FlowRow> members, Output out);
    }

    /** Where treated rows go: each to its own place, or behind the row that leads its group. */
    interface Output {
        void add(FlowRow row);
    }

    @Override
    public @Nullable FlowRow next() {
        if (result == null) {
            sort();
            treat();
            groups.close();
            result = ordered.sorted();
        }
        return result.hasNext() ? FlowCodec.decode(result.next().payload()) : null;
    }

    private void sort() {
        for (FlowRow row = rows.next(); row != null; row = rows.next()) {
            if (row.isAlive()) {
                treatment.before(row);
            }
            byte[] key = row.skipped() == null ? key(row) : null;
            if (key == null) {
                put(row);
            } else {
                groups.add(key, row.position(), 0, FlowCodec.encode(row));
            }
        }
    }

    private void put(FlowRow row) {
        byte[] leader = ByteBuffer.allocate(Long.BYTES).putLong(row.group()).array();
        ordered.add(leader, row.position(), 0, FlowCodec.encode(row));
    }

    /** What the row agrees in with others, and whether it is sound; null where a field has no value at all. */
    private byte @Nullable [] key(FlowRow row) {
        byte[] bytes = agreement(row, level, by);
        if (bytes == null) {
            return null;
        }
        byte[] key = Arrays.copyOf(bytes, bytes.length + 1);
        key[bytes.length] = row.isAlive() ? SOUND : REJECTED;
        return key;
    }

    /** What a row agrees in with others, in these slots; null where one of them has no value at all. */
    static byte @Nullable [] agreement(FlowRow row, int level, int[] by) {
        if (!mayAgree(row, level, by)) {
            return null;
        }
        List<@Nullable Object> parts = new ArrayList<>(by.length);
        for (int slot : by) {
            Object part = row.slots()[slot];
            parts.add(part instanceof BigDecimal number ? number.stripTrailingZeros() : part);
        }
        return ValueCodec.encode(parts);
    }

    /** Whether a row has values in these slots, in which it may agree with others. */
    static boolean mayAgree(FlowRow row, int level, int[] by) {
        boolean may = row.reached(level) && row.source().problems().isEmpty();
        for (int i = 0; may && i < by.length; i++) {
            may = row.slots()[by[i]] != BrokenInput.VALUE;
        }
        return may;
    }

    private void treat() {
        Groups entries = new Groups(groups.sorted());
        Output out = this::put;
        while (entries.hasNext()) {
            pulse.run();
            Iterator<FlowRow> members = entries.nextGroup();
            if (entries.firstIsRejected() && !treatment.takesRejected()) {
                rejectAll(members, out);
            } else {
                treatment.group(members, out);
            }
            members.forEachRemaining(out::add);
        }
    }

    private void rejectAll(Iterator<FlowRow> members, Output out) {
        FlowRow because = members.next();
        List<FlowRow> held = new ArrayList<>(List.of(because));
        while (members.hasNext()) {
            FlowRow row = members.next();
            if (row.isAlive()) {
                row.reject(step, groupRejected(because.source().number()));
            }
            if (treatment.keepsTogether() && held.size() < Treatments.LARGEST_GROUP) {
                held.add(row);
            } else {
                out.add(row);
            }
        }
        long leader = held.stream().mapToLong(FlowRow::position).min().orElseThrow();
        for (FlowRow row : held) {
            if (treatment.keepsTogether()) {
                row.joinGroup(leader);
            }
            out.add(row);
        }
    }

    /** The problem of a row whose group can't go on. */
    static Problem groupRejected(long because) {
        return Problem.of(
                ProblemCode.GROUP_REJECTED,
                "Row " + because + " belongs together with this one and is rejected.",
                "Correct that row; both are sent again together.");
    }

    /** Entries cut into groups of the same key. */
    private static final class Groups {
        private final Iterator<ExternalSort.Entry> entries;
        private ExternalSort.@Nullable Entry next;
        private byte[] group = {};

        Groups(Iterator<ExternalSort.Entry> entries) {
            this.entries = entries;
            advance();
        }

        private void advance() {
            next = entries.hasNext() ? entries.next() : null;
        }

        boolean hasNext() {
            return next != null;
        }

        boolean firstIsRejected() {
            return group[group.length - 1] == REJECTED;
        }

        private static boolean same(byte[] a, byte[] b) {
            return a.length == b.length && Arrays.equals(a, 0, a.length - 1, b, 0, b.length - 1);
        }

        Iterator<FlowRow> nextGroup() {
            group = next == null ? group : next.key();
            return new Iterator<>() {
                @Override
                public boolean hasNext() {
                    return next != null && same(next.key(), group);
                }

                @Override
                public FlowRow next() {
                    ExternalSort.Entry entry = next;
                    if (entry == null || !hasNext()) {
                        throw new java.util.NoSuchElementException();
                    }
                    advance();
                    return FlowCodec.decode(entry.payload());
                }
            };
        }
    }

    @Override
    public long read() {
        return rows.read();
    }

    @Override
    public void close() {
        groups.close();
        ordered.close();
        rows.close();
    }
}

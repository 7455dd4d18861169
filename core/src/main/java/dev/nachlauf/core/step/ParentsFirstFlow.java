package dev.nachlauf.core.step;

import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.ValueCodec;
import dev.nachlauf.core.spool.ExternalSort;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Rows in generations: first those whose parent is not among the rows, then their children, and so on. Each generation
 * is found by merging what is left, sorted by parent, with the keys of the generation before, so nothing has to fit into
 * memory. What is left at the end stands in a circle, or behind one.
 */
final class ParentsFirstFlow implements RowFlow {
    private static final int MOST_GENERATIONS = 1_000;
    /** More rows than this in circles are rejected without naming the circle. */
    private static final int MOST_NAMED = 10_000;

    private final RowFlow rows;
    private final PlannedStep.ParentsFirst step;
    private final Path scratch;
    private final Runnable pulse;
    private final List<ExternalSort> open = new ArrayList<>();
    private final ExternalSort ordered;
    private @Nullable Iterator<ExternalSort.Entry> result;
    private long position;

    ParentsFirstFlow(RowFlow rows, PlannedStep.ParentsFirst step, Path scratch, Runnable pulse) {
        this.pulse = pulse;
        this.rows = rows;
        this.step = step;
        this.scratch = scratch;
        this.ordered = sort();
    }

    private ExternalSort sort() {
        ExternalSort sort = new ExternalSort(scratch);
        open.add(sort);
        return sort;
    }

    @Override
    public @Nullable FlowRow next() {
        if (result == null) {
            arrange();
            result = ordered.sorted();
        }
        return result.hasNext() ? FlowCodec.decode(result.next().payload()).at(++position) : null;
    }

    private void arrange() {
        ExternalSort pending = sort();
        for (FlowRow row = rows.next(); row != null; row = rows.next()) {
            byte[] parent = row.isAlive() ? key(row, step.parent()) : null;
            byte[] own = row.isAlive() ? key(row, step.key()) : null;
            if (own == null || parent == null) {
                place(row, 0);
            } else {
                pending.add(parent, row.position(), 0, FlowCodec.encode(row));
            }
        }
        generations(pending);
    }

    /** A row may be placed when its parent waits no longer, or was never among the rows. */
    private void generations(ExternalSort pending) {
        ExternalSort left = pending;
        for (int generation = 1; generation <= MOST_GENERATIONS; generation++) {
            ExternalSort again = sort();
            ExternalSort keysWaiting = sort();
            for (Iterator<ExternalSort.Entry> entries = left.sorted(); entries.hasNext(); ) {
                pulse.run();
                ExternalSort.Entry entry = entries.next();
                keysWaiting.add(keyOf(FlowCodec.decode(entry.payload()), step.key()), entry.number(), 0);
                again.add(entry.key(), entry.number(), 0, entry.payload());
            }
            left.close();
            ExternalSort waiting = sort();
            long[] counts = new long[2];
            int current = generation;
            merge(again, keysWaiting, (row, waits) -> {
                if (waits) {
                    waiting.add(keyOf(row, step.parent()), row.position(), 0, FlowCodec.encode(row));
                } else {
                    place(row, current);
                }
                counts[waits ? 0 : 1]++;
            });
            again.close();
            keysWaiting.close();
            left = waiting;
            if (counts[0] == 0 || counts[1] == 0) {
                rejectCircles(left);
                return;
            }
        }
        rejectDeep(left);
    }

    /** What is done with a row, and whether its parent was among the keys. */
    private interface Placing {
        void place(FlowRow row, boolean found);
    }

    /** Walks along two sorted lists at once. */
    private static void merge(ExternalSort byParent, ExternalSort keys, Placing placing) {
        Iterator<ExternalSort.Entry> known = keys.sorted();
        ExternalSort.Entry key = known.hasNext() ? known.next() : null;
        for (Iterator<ExternalSort.Entry> entries = byParent.sorted(); entries.hasNext(); ) {
            ExternalSort.Entry entry = entries.next();
            while (key != null && Arrays.compareUnsigned(key.key(), entry.key()) < 0) {
                key = known.hasNext() ? known.next() : null;
            }
            boolean found = key != null && Arrays.equals(key.key(), entry.key());
            placing.place(FlowCodec.decode(entry.payload()), found);
        }
    }

    private void place(FlowRow row, int generation) {
        row.inGeneration(generation);
        ordered.add(
                ByteBuffer.allocate(Integer.BYTES).putInt(generation).array(),
                row.position(),
                0,
                FlowCodec.encode(row));
    }

    private byte @Nullable [] key(FlowRow row, List<Integer> slots) {
        List<@Nullable Object> parts = new ArrayList<>();
        for (int slot : slots) {
            Object part = row.slots()[slot];
            if (part == null) {
                return null;
            }
            parts.add(part instanceof BigDecimal number ? number.stripTrailingZeros() : part);
        }
        return ValueCodec.encode(parts);
    }

    private byte[] keyOf(FlowRow row, List<Integer> slots) {
        return java.util.Objects.requireNonNull(key(row, slots), "a waiting row has a key and a parent");
    }

    private static String shown(FlowRow row, List<Integer> slots) {
        return slots.stream()
                .map(slot -> Values.shortened(String.valueOf(Values.text(row.slots()[slot]))))
                .collect(Collectors.joining(" · "));
    }

    private void rejectDeep(ExternalSort left) {
        for (Iterator<ExternalSort.Entry> entries = left.sorted(); entries.hasNext(); ) {
            FlowRow row = FlowCodec.decode(entries.next().payload());
            row.reject(
                    step.index(),
                    Problem.inField(
                            ProblemCode.PARENTS_TOO_DEEP,
                            "parents-first",
                            shown(row, step.parent()),
                            "The row stands more than " + MOST_GENERATIONS + " generations below its first parent.",
                            "Load the upper generations first, in a run of their own."));
            place(row, 0);
        }
        left.close();
    }

    private void rejectCircles(ExternalSort left) {
        Map<String, String> parents = new HashMap<>();
        ExternalSort rest = sort();
        for (Iterator<ExternalSort.Entry> entries = left.sorted(); entries.hasNext(); ) {
            ExternalSort.Entry entry = entries.next();
            FlowRow row = FlowCodec.decode(entry.payload());
            if (parents.size() < MOST_NAMED) {
                parents.put(shown(row, step.key()), shown(row, step.parent()));
            }
            rest.add(entry.key(), entry.number(), 0, entry.payload());
        }
        left.close();
        for (Iterator<ExternalSort.Entry> entries = rest.sorted(); entries.hasNext(); ) {
            FlowRow row = FlowCodec.decode(entries.next().payload());
            row.reject(
                    step.index(),
                    Problem.inField(
                            ProblemCode.PARENTS_CIRCULAR,
                            "parents-first",
                            shown(row, step.parent()),
                            circle(shown(row, step.key()), parents),
                            "Take one of the references out, or load it in a second run."));
            place(row, 0);
        }
        rest.close();
    }

    /** The way from a row to where it comes round again. */
    private static String circle(String start, Map<String, String> parents) {
        List<String> way = new ArrayList<>(List.of(start));
        String at = parents.get(start);
        while (at != null && !way.contains(at) && way.size() < 20) {
            way.add(at);
            at = parents.get(at);
        }
        if (at == null || !way.contains(at)) {
            return "The row and its parents refer to each other in a circle.";
        }
        List<String> circle = new ArrayList<>(way.subList(way.indexOf(at), way.size()));
        circle.add(at);
        String names = String.join(" → ", circle);
        return way.indexOf(at) == 0
                ? "The rows refer to each other in a circle: " + names + "."
                : "The row's parents refer to each other in a circle: " + names + ".";
    }

    @Override
    public long read() {
        return rows.read();
    }

    @Override
    public void close() {
        open.forEach(ExternalSort::close);
        rows.close();
    }
}

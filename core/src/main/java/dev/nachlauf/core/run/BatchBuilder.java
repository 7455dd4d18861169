package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.record.TextRows;
import dev.nachlauf.core.run.Batch.Settled;
import dev.nachlauf.core.run.Batch.Taken;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.step.WriteRow;
import dev.nachlauf.core.system.Cells;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Takes rows as the map gives them and lays them side by side as bytes. A row is an object up to here only. */
final class BatchBuilder {
    private static final int FACTS = Batch.Fact.values().length;

    private final List<Cells> cells;
    private final int number;
    private final long start;
    private final boolean keepsFlow;
    private final StepTally tally;
    private final StepTally.Sums steps;
    private long[] facts;
    private int size;
    private final List<Origin> places = new ArrayList<>();
    private final TextRows.Builder raw;
    private final Map<Integer, Settled> settled = new HashMap<>();
    private final Map<Integer, List<Problem>> warnings = new HashMap<>();
    private final List<FlowRow> flow = new ArrayList<>();
    private final List<Taking> writes = new ArrayList<>();

    /** What one write takes, so far. */
    private static final class Taking {
        private final RowBlock.@Nullable Builder block;
        private final List<WriteRow> open = new ArrayList<>();
        private int[] rows;
        private int count;

        Taking(RowBlock.@Nullable Builder block, int rows) {
            this.block = block;
            this.rows = new int[rows];
        }

        Taken taken() {
            return new Taken(Arrays.copyOf(rows, count), block == null ? null : block.build(), open);
        }
    }

    /**
     * An empty batch.
     *
     * @param cells how each write's target spells its records
     * @param start how many rows came to the batches before it
     * @param rows about how many rows there will be
     */
    BatchBuilder(Plan plan, StepTally tally, List<Cells> cells, int number, long start, int rows) {
        this.cells = cells;
        this.number = number;
        this.start = start;
        this.tally = tally;
        this.steps = tally.sums();
        this.facts = new long[rows * FACTS];
        this.raw = new TextRows.Builder(plan.columns().size(), rows);
        this.keepsFlow = !plan.replacing().isEmpty()
                || plan.writes().stream().anyMatch(write -> write.late() || write.hasReferences());
        for (PlannedWrite write : plan.writes()) {
            boolean known = !write.late() && !write.hasReferences();
            writes.add(new Taking(known ? new RowBlock.Builder(write.fields().size(), rows) : null, known ? rows : 16));
        }
    }

    int size() {
        return size;
    }

    void add(TargetRow row) {
        steps.add(row);
        FlowRow flowing = row.row();
        note(flowing);
        if (!flowing.warnings().isEmpty()) {
            warnings.put(size, List.copyOf(flowing.warnings()));
        }
        if (row.passed()) {
            for (int w = 0; w < writes.size(); w++) {
                WriteRow write = row.write(w);
                if (write != null) {
                    take(writes.get(w), cells.get(w), write);
                }
            }
        } else {
            settled.put(
                    size, new Settled(tally.fate(row), tally.isReading(row), row.skipped(), row.problems(), row.key()));
        }
        if (keepsFlow) {
            flow.add(flowing);
        }
        size++;
    }

    private void take(Taking values, Cells spelled, WriteRow write) {
        if (values.count == values.rows.length) {
            values.rows = Arrays.copyOf(values.rows, values.count * 2);
        }
        values.rows[values.count++] = size;
        if (values.block == null) {
            values.open.add(write);
        } else {
            add(values.block, spelled, write);
        }
    }

    /** Adds the values of a row as a target spells them. */
    static void add(RowBlock.Builder block, Cells spelled, WriteRow write) {
        for (int field = 0; field < write.values().length; field++) {
            block.add(write.values()[field], spelled.fields().get(field));
        }
    }

    private void note(FlowRow row) {
        if ((size + 1) * FACTS > facts.length) {
            facts = Arrays.copyOf(facts, facts.length * 2 + FACTS);
        }
        SourceRow source = row.source();
        int at = size * FACTS;
        facts[at + Batch.Fact.NUMBER.ordinal()] = source.number();
        facts[at + Batch.Fact.POSITION.ordinal()] = row.position();
        facts[at + Batch.Fact.GROUP.ordinal()] = row.group();
        facts[at + Batch.Fact.LINE.ordinal()] = source.origin().line();
        facts[at + Batch.Fact.STANDS.ordinal()] = row.stands()[0];
        facts[at + Batch.Fact.PLACE.ordinal()] = place(source.origin());
        raw.add(source);
    }

    /** Rows of one file and sheet follow each other. */
    private int place(Origin origin) {
        int last = places.size() - 1;
        if (last < 0 || !isSame(places.get(last), origin)) {
            places.add(origin);
            return last + 1;
        }
        return last;
    }

    private static boolean isSame(Origin one, Origin other) {
        return one.file().equals(other.file())
                && one.sheet().equals(other.sheet())
                && one.addresses().equals(other.addresses());
    }

    Batch build() {
        return new Batch(
                number,
                start,
                Arrays.copyOf(facts, size * FACTS),
                places,
                raw.build(),
                settled,
                warnings,
                writes.stream().map(Taking::taken).toList(),
                flow,
                steps.counts(),
                tally.isLevel());
    }
}

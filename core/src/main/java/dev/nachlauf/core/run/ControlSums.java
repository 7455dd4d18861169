package dev.nachlauf.core.run;

import dev.nachlauf.core.load.ControlTotal;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedTotal;
import dev.nachlauf.core.step.Amount;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.RowFlow;
import dev.nachlauf.core.system.Writes;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Adds figures of the source up by what became of its rows: the rows are read once more, and the ledger says of each how it
 * ended. Nothing is taken over from the count that was kept while they were written, so one proves the other.
 */
public final class ControlSums {
    private final Plan plan;
    private final LedgerWrites writes;
    private final RunRecords records;
    private final Pulse pulse;
    private final List<Sums> sums = new ArrayList<>();

    /** One figure so far. */
    private static final class Sums {
        private Amount skipped = Amount.NONE;
        private Amount rejected = Amount.NONE;
        private Amount written = Amount.NONE;
        private Amount stored = Amount.NONE;
        private Amount unreached = Amount.NONE;

        void add(@Nullable Ending ending, Amount amount) {
            if (ending == null) {
                unreached = unreached.plus(amount);
            } else if (ending.outcome == Outcome.SKIPPED) {
                skipped = skipped.plus(amount);
            } else if (ending.outcome == Outcome.REJECTED) {
                rejected = rejected.plus(amount);
            } else {
                written = written.plus(amount);
                stored = ending.stored ? stored.plus(amount) : stored;
            }
        }

        ControlTotal of(PlannedTotal total, @Nullable BigDecimal target) {
            return new ControlTotal(
                    total.name(),
                    skipped,
                    rejected,
                    written,
                    stored,
                    unreached,
                    total.expected().orElse(null),
                    target);
        }
    }

    /**
     * How the way of a row ended.
     *
     * @param stored whether the main write has a record of it
     */
    private record Ending(Outcome outcome, boolean stored) {
        /** One that any write refused is rejected, one that no write took is skipped. */
        Ending with(Ending other) {
            boolean first = outcome == Outcome.REJECTED || other.outcome == Outcome.SKIPPED;
            return new Ending(first ? outcome : other.outcome, stored || other.stored);
        }
    }

    private ControlSums(Plan plan, RunRecords records, Pulse pulse) {
        this.plan = plan;
        this.writes = LedgerWrites.of(plan);
        this.records = records;
        this.pulse = pulse;
        plan.totals().forEach(total -> sums.add(new Sums()));
    }

    /**
     * The figures of a run that has come to its end, or to that of its plan.
     *
     * @param records what it keeps; its ledger is that of the plan where nothing was written
     * @param systems the system of each connection; asked only where the ledger tells what was written
     * @param written whether it does
     * @param scratch a folder for what spills to disk
     */
    public static List<ControlTotal> of(
            Plan plan,
            SourceSupply source,
            RunRecords records,
            Function<String, Writes> systems,
            boolean written,
            Path scratch,
            RunObserver observer) {
        if (plan.totals().isEmpty()) {
            return List.of();
        }
        Pulse pulse = new Pulse(observer);
        ControlSums sums = new ControlSums(plan, records, pulse);
        sums.add(Survey.rows(plan, source, records, pulse));
        return sums.result(written ? new StoredSums(plan, systems) : null);
    }

    private void add(Survey.RowSupply supply) {
        List<Chunk.Head> heads = heads();
        Iterator<Chunk.Head> next = heads.iterator();
        Chunk.@Nullable Head head = next.hasNext() ? next.next() : null;
        Map<Long, Ending> endings = head == null ? Map.of() : endings(head);
        long at = 0;
        try (RowFlow flow = supply.open(plan)) {
            for (FlowRow row = flow.next(); row != null; row = flow.next()) {
                pulse.run();
                while (head != null && at >= head.range().end()) {
                    head = next.hasNext() ? next.next() : null;
                    endings = head == null ? Map.of() : endings(head);
                }
                add(row, endings.get(row.position()));
                at++;
            }
        }
    }

    private void add(FlowRow row, @Nullable Ending ending) {
        for (int i = 0; i < row.amounts().size(); i++) {
            sums.get(i).add(ending, row.amounts().get(i));
        }
    }

    /** The batches of rows in the order of these; what the source no longer has stands in others. */
    private List<Chunk.Head> heads() {
        return records.chunks().stream()
                .filter(head -> head.range().rows() > 0 && head.counts().read() > 0)
                .sorted(Comparator.comparingLong(head -> head.range().start()))
                .toList();
    }

    /** How each row of a batch ended. */
    private Map<Long, Ending> endings(Chunk.Head head) {
        List<Integer> main = StoredSums.mainWrites(plan);
        Map<Long, Ending> endings = new HashMap<>();
        for (LedgerRow line : ChunkCodec.rows(records.chunk(head.batch()), writes)) {
            Ending ending = new Ending(line.outcome(), main.contains(line.write()) && StoredSums.isStored(line));
            endings.merge(line.position(), ending, Ending::with);
        }
        return endings;
    }

    private List<ControlTotal> result(@Nullable StoredSums stored) {
        Map<Integer, BigDecimal> targets =
                stored == null || !compares() ? Map.of() : stored.of(heads(), records, pulse);
        List<ControlTotal> totals = new ArrayList<>();
        for (int i = 0; i < sums.size(); i++) {
            PlannedTotal total = plan.totals().get(i);
            OptionalInt field = total.target();
            totals.add(sums.get(i).of(total, field.isEmpty() ? null : targets.get(field.getAsInt())));
        }
        return totals;
    }

    private boolean compares() {
        return plan.totals().stream().anyMatch(total -> total.target().isPresent());
    }
}

package dev.nachlauf.core.run;

import dev.nachlauf.core.job.JobDefinition.Turn;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedTotal;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Writes;
import java.math.BigDecimal;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.IntStream;

/** Adds up what the target holds now in the records of the rows that the main write took. */
final class StoredSums {
    private final Plan plan;
    private final Function<String, Writes> systems;
    /** By the place of the field among those of the write. */
    private final Map<Integer, BigDecimal> sums = new HashMap<>();

    StoredSums(Plan plan, Function<String, Writes> systems) {
        this.plan = plan;
        this.systems = systems;
        plan.totals().forEach(total -> total.target().ifPresent(field -> sums.put(field, BigDecimal.ZERO)));
    }

    /** The places of the main write and, where its job names a second key, of the one that takes what it leaves. */
    static List<Integer> mainWrites(Plan plan) {
        int main = plan.writes().indexOf(plan.main());
        boolean two = plan.main().turn() == Turn.FIRST;
        return two ? List.of(main, main + 1) : List.of(main);
    }

    /** Whether a record stands behind a line. */
    static boolean isStored(LedgerRow line) {
        return line.key() != null
                && (line.outcome() == Outcome.INSERTED
                        || line.outcome() == Outcome.UPDATED
                        || line.outcome() == Outcome.UNCHANGED);
    }

    /** The sums, by the place of the field; both writes of a job with two keys have the same map. */
    Map<Integer, BigDecimal> of(List<Chunk.Head> heads, LedgerChunks ledger, Pulse pulse) {
        LedgerWrites writes = LedgerWrites.of(plan);
        for (int index : mainWrites(plan)) {
            PlannedWrite write = plan.writes().get(index);
            try (Target target = systems.apply(write.connection()).target(write.target(), write.use())) {
                for (Chunk.Head head : heads) {
                    pulse.run();
                    List<List<Object>> keys = ChunkCodec.rows(ledger.chunk(head.batch()), writes).stream()
                            .filter(line -> line.write() == index && isStored(line))
                            .map(LedgerRow::key)
                            .toList();
                    add(keys, target);
                }
            }
        }
        return sums;
    }

    private void add(List<List<Object>> keys, Target target) {
        if (keys.isEmpty()) {
            return;
        }
        Cells cells = target.cells();
        RowBlock.Builder rows = new RowBlock.Builder(cells.fields().size(), keys.size());
        for (List<Object> key : keys) {
            for (int field = 0; field < cells.fields().size(); field++) {
                int part = cells.key().indexOf(field);
                rows.add(part < 0 ? null : key.get(part), cells.fields().get(field));
            }
        }
        target.find(rows.build(), IntStream.range(0, keys.size()).toArray(), (row, record) -> add(record, cells));
    }

    private void add(StoredRecord record, Cells cells) {
        for (PlannedTotal total : plan.totals()) {
            total.target().ifPresent(field -> {
                CellCodec codec = cells.fields().get(field);
                Object value = codec.read(record.data(), record.fieldAt(field));
                if (value != null) {
                    sums.merge(field, new BigDecimal(value.toString()), BigDecimal::add);
                }
            });
        }
    }
}

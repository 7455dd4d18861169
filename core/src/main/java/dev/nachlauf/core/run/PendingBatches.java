package dev.nachlauf.core.run;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.run.Settling.Written;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.TargetUse;
import dev.nachlauf.core.system.Writes;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Asks what became of the batches that a run left in doubt, from nothing but its ledger and what the targets are now. It
 * needs no plan, so it can be done after whatever ended the run: a column that was dropped, a right that was taken away.
 */
public final class PendingBatches {
    private final Function<String, Writes> systems;
    private final RunRecords records;

    /** @param systems the system of each connection by its name; the same one for the same system */
    public PendingBatches(Function<String, Writes> systems, RunRecords records) {
        this.systems = systems;
        this.records = records;
    }

    /**
     * Settles what can be settled.
     *
     * @param writes those of the run
     * @return whether nothing is left in doubt
     * @throws CannotGoOn where a target can't be reached, or can't tell yet
     */
    public boolean settle(LedgerWrites writes) {
        List<Target> opened = new ArrayList<>();
        try {
            List<Writes> connections = new ArrayList<>();
            List<Written> asked = new ArrayList<>();
            for (LedgerWrites.Write write : writes.writes()) {
                Writes system = systems.apply(write.connection());
                if (!connections.contains(system)) {
                    connections.add(system);
                }
                asked.add(open(write, connections.indexOf(system), system, opened));
            }
            new Settling(asked, records, Optional.empty(), () -> {}).settle();
            return records.chunks().stream().allMatch(head -> head.state() == Chunk.State.DONE);
        } finally {
            opened.forEach(Target::close);
        }
    }

    private static Written open(LedgerWrites.Write write, int connection, Writes system, List<Target> opened) {
        List<String> there =
                system
                        .describe(write.records(), write.fields())
                        .map(RecordDescription::fields)
                        .orElse(List.of())
                        .stream()
                        .map(FieldDescription::name)
                        .toList();
        int[] fields = IntStream.range(0, write.fields().size())
                .filter(i -> there.contains(write.fields().get(i)))
                .toArray();
        @Nullable Target target = null;
        if (there.containsAll(write.key())) {
            List<String> names =
                    IntStream.of(fields).mapToObj(write.fields()::get).toList();
            target = system.target(
                    system.describe(write.records(), write.fields()).orElseThrow(), new TargetUse(write.key(), names));
            opened.add(target);
        }
        return new Written(
                connection, target, write.key().size(), write.fields().size(), fields);
    }
}

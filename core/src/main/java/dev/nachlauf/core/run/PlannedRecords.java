package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.step.Found;
import dev.nachlauf.core.step.RecordFinder;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ReservesIds;
import dev.nachlauf.core.system.Target;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * What a run that writes nothing has planned so far: later rows, references and writes find it as if it were written. Only
 * records that something asks for again are kept here. New ones are known by numbers below zero, for no id is taken.
 */
final class PlannedRecords implements StoredRecords {
    /** About what a record takes; a quarter of the memory may go to them. */
    private static final long RECORD = 1_000;

    private static final long MOST = Runtime.getRuntime().maxMemory() / 4 / RECORD;

    private final Plan plan;
    private final Targets targets;
    /** What is planned for a record type, by write; null where nothing asks for it again. */
    private final List<@Nullable PlannedType> types = new ArrayList<>();

    private long lastId;
    private long kept;

    PlannedRecords(Plan plan, Targets targets) {
        this.plan = plan;
        this.targets = targets;
        Map<List<String>, PlannedType> byName = new HashMap<>();
        for (PlannedWrite write : plan.writes()) {
            long writes = plan.writes().stream()
                    .filter(other -> name(other).equals(name(write)))
                    .count();
            List<Finding> findings = findings(name(write));
            if (writes > 1 || !findings.isEmpty()) {
                PlannedType type = byName.computeIfAbsent(name(write), any -> new PlannedType());
                type.index(write.keyNames());
                findings.forEach(finding -> type.index(finding.keyFields()));
            }
            types.add(byName.get(name(write)));
        }
    }

    private static List<String> name(PlannedWrite write) {
        return List.of(write.connection(), write.target().name());
    }

    private List<Finding> findings(List<String> name) {
        return plan.writes().stream()
                .flatMap(write -> write.fields().stream())
                .filter(output -> output.source() instanceof Source.Found)
                .map(output -> ((Source.Found) output.source()).finding())
                .filter(finding -> name.equals(List.of(finding.connection(), finding.records())))
                .toList();
    }

    /** Whether anything that is planned is asked for again. */
    boolean isAsked() {
        return types.stream().anyMatch(type -> type != null);
    }

    /** Gives new records numbers that no record has. */
    void give(Target target, ChangeSet changes, int[] inserts) {
        if (target instanceof ReservesIds reserves && reserves.hasIds()) {
            for (int insert : inserts) {
                changes.identify(insert, --lastId);
            }
        }
    }

    /** Takes what is planned for a batch, by its lines. */
    void take(List<LedgerRow> lines) {
        for (LedgerRow line : lines) {
            if (line.id() instanceof Long id) {
                lastId = Math.min(lastId, id);
            }
            PlannedType type = types.get(line.write());
            if (type != null && line.wrote()) {
                kept += type.take(line, plan.writes().get(line.write())) ? 1 : 0;
            }
        }
        if (kept > MOST) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.BATCH_TOO_LARGE,
                    "More than " + MOST + " records are planned that later rows ask for.",
                    "Start the service with more memory (NACHLAUF_HEAP), or plan fewer rows at once."));
        }
    }

    @Override
    public void find(int write, RowBlock rows, int[] which, Target.Found found) {
        Target target = targets.of(write);
        PlannedType type = types.get(write);
        if (type == null) {
            target.find(rows, which, found);
            return;
        }
        Cells cells = target.cells();
        PlannedWrite of = plan.writes().get(write);
        PlannedCells spelled = new PlannedCells(cells, of.fieldNames());
        target.find(rows, which, (row, record) -> {
            PlannedType.One known = type.of(ChangeSet.id(cells, record.data(), record.idAt()));
            if (known == null) {
                found.take(row, record);
            } else if (known.agrees(of.keyNames(), key(cells, rows, row))) {
                found.take(row, spelled.over(record, known.values()));
            }
        });
        for (int row : which) {
            type.added(of.keyNames(), key(cells, rows, row))
                    .forEach(one -> found.take(row, spelled.added(one.id(), one.values())));
        }
    }

    private static List<@Nullable Object> key(Cells cells, RowBlock rows, int row) {
        List<@Nullable Object> key = new ArrayList<>();
        cells.key()
                .forEach(field -> key.add(rows.value(row, field, cells.fields().get(field))));
        return key;
    }

    /** Finds records for references among those that are stored and those that are planned. */
    RecordFinder finder(RecordFinder stored) {
        return (finding, keys) -> {
            List<Found> found = stored.find(finding, keys);
            PlannedType type = typeOf(finding);
            return type == null
                    ? found
                    : IntStream.range(0, found.size())
                            .mapToObj(i ->
                                    with(type.added(finding.keyFields(), List.of(keys.get(i))), finding, found.get(i)))
                            .toList();
        };
    }

    private @Nullable PlannedType typeOf(Finding finding) {
        List<String> name = List.of(finding.connection(), finding.records());
        return IntStream.range(0, types.size())
                .filter(w -> name.equals(name(plan.writes().get(w))))
                .mapToObj(types::get)
                .findFirst()
                .orElse(null);
    }

    private Found with(List<PlannedType.One> added, Finding finding, Found stored) {
        if (added.isEmpty()) {
            return stored;
        }
        boolean several = stored.matches() + added.size() > 1;
        return new Found(several ? 2 : 1, stored.matches() > 0 ? stored.values() : values(added.getFirst(), finding));
    }

    /** The fields that a reference brings; what identifies a new record is its number here. */
    private @Nullable Object[] values(PlannedType.One one, Finding finding) {
        Map<String, @Nullable Object> values = new HashMap<>(one.values());
        plan.writes().stream()
                .filter(write -> name(write).equals(List.of(finding.connection(), finding.records())))
                .flatMap(write -> write.target().primaryKey().stream())
                .filter(key -> key.fields().size() == 1)
                .forEach(key -> values.putIfAbsent(key.fields().getFirst(), one.id()));
        return finding.wanted().stream().map(values::get).toArray();
    }
}

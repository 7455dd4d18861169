package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Decision;
import dev.nachlauf.core.load.LoadPlanner;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Result;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.Line.Part;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.WriteRow;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ReservesIds;
import dev.nachlauf.core.system.Respells;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.FieldSet;
import dev.nachlauf.core.system.Target.Keys;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Finds what a batch meets in the targets and decides what each write makes of its rows, in the order of the writes. */
final class BatchDecisions {
    private static final Problem NO_ID = Problem.of(
            ProblemCode.NOT_WRITTEN,
            "A later write needs the id of this new record, which the target gives only when it writes.",
            "Take another field of it, or make a job of its own of the later write.");

    private final Plan plan;
    private final Targets targets;
    private final Mapper mapper;
    private final References references;

    BatchDecisions(Plan plan, Targets targets, References references) {
        this.plan = plan;
        this.targets = targets;
        this.mapper = new Mapper(plan);
        this.references = references;
    }

    /** What has been written is asked for again. */
    void written() {
        plan.writes().forEach(references::written);
    }

    /** Decides one write for all rows that it takes; what later writes may use of it goes into the rows' slots. */
    void decide(int index, List<Line> going, List<Line> all) {
        PlannedWrite write = plan.writes().get(index);
        List<Line> taken = new ArrayList<>();
        List<WriteRow> rows = new ArrayList<>();
        for (Line line : going) {
            line.parts[index] = null;
            WriteRow row = line.goesOn() ? mapped(write, index, line) : null;
            if (row != null) {
                taken.add(line);
                rows.add(row);
            }
        }
        List<WriteRow> resolved = references.resolve(write, taken, rows);
        for (int i = taken.size() - 1; i >= 0; i--) {
            if (!taken.get(i).goesOn()) {
                taken.remove(i);
                resolved.remove(i);
            }
        }
        decideTaken(index, write, taken, resolved);
        if (!write.results().isEmpty()) {
            publish(index, write, taken, all);
        }
    }

    private @Nullable WriteRow mapped(PlannedWrite write, int index, Line line) {
        if (!write.late()) {
            return line.row.write(index);
        }
        List<Problem> problems = new ArrayList<>();
        WriteRow row = mapper.mapLate(line.row.row(), index, problems);
        if (!problems.isEmpty()) {
            line.refuse(problems);
            return null;
        }
        return row;
    }

    private void decideTaken(int index, PlannedWrite write, List<Line> taken, List<WriteRow> asSent) {
        if (taken.isEmpty()) {
            return;
        }
        Target target = targets.of(index);
        List<WriteRow> rows = respelled(target, asSent);
        List<Object[]> keys = new ArrayList<>(rows.size());
        rows.forEach(row -> keys.add(Objects.requireNonNull(row.key())));
        List<Decision> decisions = LoadPlanner.plan(
                write, rows, target.find(new Keys(write.keyNames(), keys), new FieldSet(write.fieldNames())));
        List<Part> inserts = new ArrayList<>();
        for (int i = 0; i < taken.size(); i++) {
            Part part = new Part(rows.get(i));
            taken.get(i).parts[index] = part;
            switch (decisions.get(i)) {
                case Decision.Leave leave -> {
                    part.outcome = Outcome.UNCHANGED;
                    part.id = leave.id();
                }
                case Decision.Reject reject -> taken.get(i).refuse(List.of(reject.problem()));
                case Decision.Write change -> {
                    part.change = change.change();
                    if (change.change() instanceof Change.Insert) {
                        inserts.add(part);
                    }
                    part.id = change.change() instanceof Change.Update update ? update.id() : null;
                }
            }
        }
        reserveIds(target, inserts);
    }

    /** The rows as the target would spell them, so that only what differs is written. */
    private static List<WriteRow> respelled(Target target, List<WriteRow> rows) {
        if (!(target instanceof Respells respells)) {
            return rows;
        }
        List<@Nullable Object[]> sent = rows.stream().map(WriteRow::values).toList();
        List<@Nullable Object[]> values = respells.respelled(sent);
        if (values == sent) {
            return rows;
        }
        List<WriteRow> respelled = new ArrayList<>(rows.size());
        for (int i = 0; i < rows.size(); i++) {
            WriteRow row = rows.get(i);
            respelled.add(new WriteRow(row.number(), row.group(), row.row(), values.get(i), row.key()));
        }
        return respelled;
    }

    private static void reserveIds(Target target, List<Part> inserts) {
        if (inserts.isEmpty() || !(target instanceof ReservesIds reserves)) {
            return;
        }
        List<Object> ids = reserves.reserve(inserts.size());
        for (int i = 0; i < Math.min(ids.size(), inserts.size()); i++) {
            Part part = inserts.get(i);
            if (part.change instanceof Change.Insert insert) {
                part.id = ids.get(i);
                part.change = new Change.Insert(insert.row(), insert.group(), insert.key(), ids.get(i), insert.after());
            }
        }
    }

    /** A write that stands for a group speaks to all rows of it. */
    private void publish(int index, PlannedWrite write, List<Line> taken, List<Line> all) {
        boolean idNeeded = plan.writes().stream()
                .skip(index + 1L)
                .flatMap(later -> later.fields().stream())
                .flatMap(output -> output.source().slots().stream())
                .anyMatch(slot ->
                        write.results().stream().anyMatch(result -> result.field() < 0 && result.slot() == slot));
        Map<Long, Line> leaders = new HashMap<>();
        taken.forEach(line -> leaders.put(line.row.row().group(), line));
        for (Line line : write.oncePerGroup() ? all : taken) {
            Line from = write.oncePerGroup() ? leaders.get(line.row.row().group()) : line;
            if (from == null) {
                continue;
            }
            Part part = from.parts[index];
            if (part == null) {
                continue;
            }
            if (idNeeded && part.id == null && from.goesOn()) {
                from.refuse(List.of(NO_ID));
            }
            for (Result result : write.results()) {
                line.row.row().slots()[result.slot()] =
                        result.field() < 0 ? part.id : part.mapped.values()[result.field()];
            }
        }
    }
}

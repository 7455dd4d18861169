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
import dev.nachlauf.core.system.Answer;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.ReservesIds;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.FieldSet;
import dev.nachlauf.core.system.Target.Keys;
import dev.nachlauf.core.system.Target.UnitId;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Writes one batch, all writes in order: find, decide, apply, ledger, commit. A row is written in all of its writes or in
 * none, and so is a group: where a write refuses a row whose group has been written elsewhere in the batch, the batch is
 * begun anew without that group. One per connection, used by one thread.
 */
final class BatchWriter {
    private static final Problem CHANGED_MEANWHILE = Problem.of(
            ProblemCode.CHANGED_MEANWHILE,
            "Somebody else kept changing the record while this row was written.",
            "Send the row again when they are done.");
    private static final Problem UNKNOWN = Problem.of(
            ProblemCode.OUTCOME_UNKNOWN,
            "The target did not say whether the row was written.",
            "Look the record up before you send the row again.");
    private static final Problem NO_ID = Problem.of(
            ProblemCode.NOT_WRITTEN,
            "A later write needs the id of this new record, which the target gives only when it writes.",
            "Take another field of it, or make a job of its own of the later write.");
    /** So often a batch is begun anew because somebody else keeps changing its records. */
    private static final int PATIENCE = 3;

    private final Plan plan;
    private final Targets targets;
    private final Mapper mapper;
    private final References references;
    private final RunRecords records;
    private final RunObserver observer;
    private final RejectGuard guard;
    private final BatchLedger ledger;
    private final String run;
    private final long epoch;
    private final boolean simple;
    private final BitSet[] everything;
    private final @Nullable Object[][] nothing;
    /** Committed in the target; marked as done with the next chunk. */
    private final List<Integer> committed = new ArrayList<>();

    BatchWriter(
            Plan plan,
            Targets targets,
            References references,
            RunRecords records,
            RunObserver observer,
            RejectGuard guard,
            String run,
            long epoch) {
        this.plan = plan;
        this.targets = targets;
        this.mapper = new Mapper(plan);
        this.references = references;
        this.records = records;
        this.observer = observer;
        this.guard = guard;
        this.ledger = new BatchLedger(plan);
        this.run = run;
        this.epoch = epoch;
        this.simple = plan.isSimple();
        int writes = plan.writes().size();
        everything = new BitSet[writes];
        nothing = new Object[writes][];
        for (int w = 0; w < writes; w++) {
            int fields = plan.writes().get(w).fields().size();
            everything[w] = new BitSet();
            everything[w].set(0, fields);
            nothing[w] = new Object[fields];
        }
    }

    /** Writes a batch; false where a limit is crossed by it, and then nothing was written. */
    boolean write(Batch batch) {
        List<Line> lines = batch.rows().stream()
                .map(row -> new Line(row, plan.writes().size()))
                .toList();
        Target.@Nullable Unit unit = null;
        try {
            unit = decideAndApply(batch, lines);
            Target.Unit written = unit != null && lines.stream().anyMatch(Line::wrote) ? unit : null;
            Chunk chunk = ledger.chunk(batch, lines, written == null ? Optional.empty() : Optional.of(written.token()));
            if (!guard.admit(chunk.head().counts(), chunk.head().tally().elsewhere())) {
                return false;
            }
            observer.reached(RunObserver.Point.BEFORE_LEDGER, batch.number());
            records.save(chunk, List.copyOf(committed));
            committed.clear();
            observer.reached(RunObserver.Point.BETWEEN_LEDGER_AND_COMMIT, batch.number());
            if (written != null) {
                written.commit();
                committed.add(batch.number());
                observer.reached(RunObserver.Point.AFTER_COMMIT, batch.number());
                plan.writes().forEach(references::written);
            }
            observer.written(guard.counts());
            return true;
        } finally {
            if (unit != null) {
                unit.close();
            }
        }
    }

    /** Marks what is committed as done, when no further chunk will do it. */
    void finish() {
        if (!committed.isEmpty()) {
            records.settled(List.copyOf(committed));
            committed.clear();
        }
    }

    /** The unit with everything applied that can be; null where there is nothing to apply. */
    private Target.@Nullable Unit decideAndApply(Batch batch, List<Line> lines) {
        int moves = 0;
        while (true) {
            List<Line> going = lines.stream().filter(Line::goesOn).toList();
            for (int w = 0; w < plan.writes().size(); w++) {
                decide(w, going, lines);
            }
            refuseGroups(going);
            if (going.stream().noneMatch(BatchWriter::changes)) {
                return null;
            }
            Target.Unit unit = targets.main().begin(new UnitId(run, epoch, batch.number()));
            boolean sound = false;
            try {
                Verdict verdict = apply(unit, going, moves == PATIENCE - 1);
                sound = verdict == Verdict.DONE;
                moves += verdict == Verdict.MOVED ? 1 : 0;
            } finally {
                if (!sound) {
                    unit.close();
                }
            }
            if (sound) {
                return unit;
            }
        }
    }

    private static boolean changes(Line line) {
        if (!line.goesOn()) {
            return false;
        }
        for (Part part : line.parts) {
            if (part != null && part.change != null) {
                return true;
            }
        }
        return false;
    }

    /** Decides one write for all rows that it takes; what later writes may use of it goes into the rows' slots. */
    private void decide(int index, List<Line> going, List<Line> all) {
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

    private void decideTaken(int index, PlannedWrite write, List<Line> taken, List<WriteRow> rows) {
        if (taken.isEmpty()) {
            return;
        }
        List<Object[]> keys = new ArrayList<>(rows.size());
        rows.forEach(row -> keys.add(Objects.requireNonNull(row.key())));
        Target target = targets.of(index);
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

    /** A row that is rejected takes its group with it. */
    private void refuseGroups(List<Line> going) {
        if (simple) {
            return;
        }
        Map<Long, Line> refused = new HashMap<>();
        for (Line line : going) {
            if (!line.goesOn()) {
                refused.putIfAbsent(line.row.row().group(), line);
            }
        }
        for (Line line : going) {
            Line because = refused.get(line.row.row().group());
            if (because != null && line.goesOn()) {
                line.refuse(List.of(groupRejected(because)));
            }
        }
    }

    private static Problem groupRejected(Line because) {
        return Problem.of(
                ProblemCode.GROUP_REJECTED,
                "Row " + because.row.row().source().number() + " belongs together with this one and is rejected.",
                "Correct that row; both are sent again together.");
    }

    private enum Verdict {
        DONE,
        /** Rows were refused whose groups had been written elsewhere: begin anew without them. */
        REFUSED,
        /** Somebody else changed records meanwhile: look again. */
        MOVED
    }

    private Verdict apply(Target.Unit unit, List<Line> going, boolean lastTime) {
        for (int w = 0; w < plan.writes().size(); w++) {
            List<Line> moved = applyOnce(unit, w, changing(w, going));
            if (!moved.isEmpty() && simple) {
                decide(w, moved, moved);
                applyOnce(unit, w, changing(w, moved)).forEach(line -> line.refuse(List.of(CHANGED_MEANWHILE)));
            } else if (!moved.isEmpty() && !lastTime) {
                return Verdict.MOVED;
            } else {
                moved.forEach(line -> line.refuse(List.of(CHANGED_MEANWHILE)));
            }
            boolean refused = going.stream().anyMatch(line -> !line.refused.isEmpty());
            if (!simple && refused) {
                refuseGroups(going);
                return Verdict.REFUSED;
            }
        }
        return Verdict.DONE;
    }

    private static List<Line> changing(int index, List<Line> lines) {
        return lines.stream()
                .filter(line -> line.goesOn() && line.parts[index] != null && line.parts[index].change != null)
                .toList();
    }

    /** Applies one write's changes; the result is the rows whose records somebody changed meanwhile. */
    private List<Line> applyOnce(Target.Unit unit, int index, List<Line> changing) {
        if (changing.isEmpty()) {
            return List.of();
        }
        List<Change> changes = new ArrayList<>();
        changing.forEach(line -> changes.add(Objects.requireNonNull(Objects.requireNonNull(line.parts[index]).change)));
        List<Answer> answers = targets.apply(unit, index, changes);
        List<Line> moved = new ArrayList<>();
        for (int i = 0; i < changing.size(); i++) {
            Line line = changing.get(i);
            switch (answers.get(i)) {
                case Answer.Done done -> done(index, Objects.requireNonNull(line.parts[index]), changes.get(i), done);
                case Answer.Refused refused -> line.refuse(refused.problems());
                case Answer.Moved ignored -> moved.add(line);
                case Answer.Unknown ignored -> line.refuse(List.of(UNKNOWN));
            }
        }
        return moved;
    }

    private void done(int index, Part part, Change change, Answer.Done done) {
        part.id = done.id();
        switch (change) {
            case Change.Insert insert -> {
                part.outcome = Outcome.INSERTED;
                part.after = insert.after();
                // shared by all new records: nothing was there before, and everything is new
                part.before = nothing[index];
                part.changed = everything[index];
            }
            case Change.Update update -> {
                part.outcome = Outcome.UPDATED;
                part.before = update.before();
                part.after = update.after();
                part.changed = update.changed();
            }
            case Change.Delete delete -> {
                part.outcome = Outcome.DELETED;
                part.before = delete.before();
            }
        }
        @Nullable Object @Nullable [] stored = done.stored();
        if (stored != null) {
            part.warnings = changedByTarget(index, part, stored);
            part.after = stored;
        }
    }

    private List<Problem> changedByTarget(int index, Part part, @Nullable Object[] stored) {
        List<Problem> warnings = new ArrayList<>();
        for (int field = part.changed.nextSetBit(0); field >= 0; field = part.changed.nextSetBit(field + 1)) {
            if (!Values.same(part.after[field], stored[field])) {
                warnings.add(Problem.inField(
                        ProblemCode.CHANGED_BY_TARGET,
                        plan.writes().get(index).fieldNames().get(field),
                        "The target stored another value than was sent.",
                        ""));
            }
        }
        return warnings;
    }
}

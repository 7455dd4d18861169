package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.step.RecordFinder;
import dev.nachlauf.core.step.Shaping;
import dev.nachlauf.core.system.Writes;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * One attempt to carry a run to its end. After a crash the same run is simply executed again: what is done is left
 * alone, what is in doubt is settled, and the rest is written.
 */
public final class LoadRun {
    /** So many rejects are shown of a run that is held before they are written. */
    private static final int MOST_FORESEEN = 10_000;

    private static final Problem AS_ASKED = Problem.of(
            ProblemCode.HELD_FOR_REVIEW,
            "The run is held as asked: everything is planned, and nothing is written.",
            "Look at what is planned, leave rows out, then release the run, or discard it.");

    private final Attempt attempt;
    private final Plan plan;
    private final SourceSupply source;
    private final Function<String, Writes> systems;
    private final RunRecords records;
    private final RunObserver observer;
    private final RunPolicy policy;
    private final Path scratch;
    private final RecordFinder finder;
    private final Pulse pulse;
    private final NearDuplicates near;
    /** Rows of the source, as far as they were looked at. */
    private long seen;

    /**
     * @param run the id of the run
     * @param epoch which take-over of the run this attempt is
     * @param systems the system of each connection that is written to, by its name in the job
     * @param finder answers lookups
     * @param scratch a folder of this attempt alone, for what spills to disk. What the steps made of the rows is written
     *     there and {@link RunRecords#adopt adopted}, so that a later attempt writes the same rows in the same batches
     */
    public LoadRun(
            String run,
            long epoch,
            Plan plan,
            SourceSupply source,
            Function<String, Writes> systems,
            RunRecords records,
            RunObserver observer,
            RunPolicy policy,
            RecordFinder finder,
            Path scratch) {
        this.attempt = new Attempt(run, epoch, LedgerWrites.of(plan), records, observer);
        this.plan = plan;
        this.source = source;
        this.systems = systems;
        this.records = records;
        this.observer = observer;
        this.policy = policy;
        this.finder = finder;
        this.scratch = scratch;
        this.pulse = new Pulse(observer);
        this.near = new NearDuplicates(plan);
    }

    /**
     * Reads, writes and accounts for every row. Whatever ends it, nothing that it has committed is left in doubt that can
     * be settled.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn where the target can't be used; temporary ones may be tried again
     * @throws RunRecords.Fenced where another process has taken the run over
     */
    public RunResult execute() {
        try (Targets targets = Targets.open(TargetOpening.of(plan), systems, records, observer)) {
            if (policy.purpose() == Purpose.REHEARSAL) {
                targets.rehearsing();
            }
            settle(targets);
            if (!policy.planOnly()) {
                records.foresee(List.of());
            }
            return stepsAndWrites(targets);
        } catch (Pulse.StopHeard e) {
            return new RunResult(RunState.STOPPED, List.of(), balance(Math.max(seen, known())));
        }
    }

    private RunResult stepsAndWrites(Targets targets) {
        if (!plan.replacing().isEmpty() || near.hold() || policy.purpose() == Purpose.REHEARSAL) {
            planAllAnew();
        }
        try {
            shape();
        } catch (CannotGoOn e) {
            if (e.isTemporary()) {
                throw e;
            }
            return new RunResult(RunState.FAILED, e.problems(), balance(Math.max(seen, known())));
        }
        try (Survey survey = Survey.of(plan, rows(), targets, scratch, policy.mostRejects(), this::surveyed, pulse)) {
            if (!survey.failures().isEmpty()) {
                return new RunResult(RunState.FAILED, said(survey), balance(Math.max(survey.rows(), known())));
            }
            Optional<Problem> refused = Removals.refused(plan, survey.rows());
            if (refused.isPresent()) {
                return new RunResult(RunState.FAILED, List.of(refused.get()), balance(0));
            }
            List<Chunk.Head> done = records.chunks();
            LimitGuard guard = new LimitGuard(
                    plan.job().limits(),
                    policy,
                    survey.rows(),
                    survey.foreseen(),
                    RunBalance.counts(done),
                    RunBalance.tally(done));
            Optional<Problem> held = guard.checkBefore();
            if (held.isPresent()) {
                foresee(survey, targets, byNumber(done));
                return new RunResult(RunState.HELD, List.of(held.get()), survey.warnings(), balance(survey.rows()));
            }
            seen = survey.rows();
            observer.writing(seen);
            write(survey, targets, guard, byNumber(done));
            near.told().filter(told -> near.hold()).ifPresent(guard::hold);
            return result(survey, guard);
        }
    }

    /**
     * What an earlier attempt has planned says nothing of the records that its rows met or were like, and of what it has
     * rehearsed nothing is left; so all is planned once more.
     */
    private void planAllAnew() {
        if (!policy.planOnly()) {
            throw new IllegalStateException("what removes records is planned before it is written");
        }
        records.chunks().forEach(head -> records.drop(head.batch()));
        records.foresee(List.of());
    }

    private void surveyed(long rows) {
        seen = rows;
        observer.surveyed(rows);
    }

    /** Runs the steps once, where they see more than one row; a rule over the whole load may end the run here. */
    private void shape() {
        if (plan.isShaped() && records.shaped().isEmpty()) {
            Path file = scratch.resolve("shaped-rows");
            Shaping.keep(plan, source::open, finder, scratch, file, this::surveyed, pulse);
            records.adopt(file);
        }
    }

    private void settle(Targets targets) {
        try (LateRejects rejects = new LateRejects(plan, rows())) {
            settling(targets, rejects).settle();
        }
    }

    private Survey.RowSupply rows() {
        return Survey.rows(plan, source, records, pulse);
    }

    private Settling settling(Targets targets, LateRejects rejects) {
        Settling.Endings endings = new Settling.Endings(
                new HalfWritten(attempt, targets, rejects), new HalfSent(attempt, targets, rejects));
        return new Settling(Settling.of(attempt.writes(), targets), records, Optional.of(endings), pulse);
    }

    private Balance balance(long rows) {
        return RunBalance.of(rows, records.chunks(), RunBalance.isSimple(plan));
    }

    /** As many rows the ledger holds already: they were read, though this attempt has not come to them. */
    private long known() {
        return RunBalance.rows(records.chunks());
    }

    private List<Problem> said(Survey survey) {
        List<Problem> problems = new ArrayList<>(survey.failures());
        long written = known();
        problems.add(Problem.of(
                survey.failures().getFirst().code(),
                "The source could be read up to row " + survey.rows() + "; "
                        + (written == 0
                                ? "nothing of it was written by this run."
                                : "this run had dealt with " + written + " rows before."),
                ""));
        return problems;
    }

    /** What a person sees who has to decide about a run that is held before its first batch. */
    private void foresee(Survey survey, Targets targets, Map<Integer, Chunk.Head> done) {
        List<Reject> rejects = new ArrayList<>();
        try (BatchReader batches = new BatchReader(
                plan, targets.cells(), rows().open(plan), survey.repeats(), done, policy.batchRows(), RunPolicy.ALL)) {
            for (Batch batch = batches.next();
                    batch != null && rejects.size() < MOST_FORESEEN;
                    batch = batches.next()) {
                pulse.run();
                rejects.addAll(BatchLedger.foreseen(batch, MOST_FORESEEN - rejects.size()));
            }
        }
        records.foresee(rejects);
    }

    private static Map<Integer, Chunk.Head> byNumber(List<Chunk.Head> chunks) {
        return chunks.stream().collect(Collectors.toMap(Chunk.Head::batch, Function.identity()));
    }

    private void write(Survey survey, Targets first, LimitGuard guard, Map<Integer, Chunk.Head> done) {
        int batchRows = Math.min(policy.batchRows(), first.batchRows());
        // what is only planned is numbered and looked at by one
        boolean several = !policy.planOnly()
                && mayHaveSeveralWriters(plan)
                && first.severalWriters()
                && survey.rows() > batchRows;
        BatchWriters making = new BatchWriters(attempt, plan, policy, finder, near, guard);
        try (BatchReader batches = new BatchReader(
                        plan, first.cells(), rows().open(plan), survey.repeats(), done, batchRows, policy.first());
                Targets second = several ? first.another() : first;
                Removals removals =
                        new Removals(attempt, plan, first, finder, scratch, batchRows, making.objections(first))) {
            List<BatchWriter> writers = new ArrayList<>();
            writers.add(making.writer(first, removals));
            if (several) {
                writers.add(making.writer(second, removals));
            }
            new Pipeline<>(batches::next, writers, observer::stopRequested).run();
            if (!observer.stopRequested()) {
                removals.plan(guard, pulse);
            }
        }
    }

    /** Whether batches of a plan are written without one being waited for by another. */
    static boolean mayHaveSeveralWriters(Plan plan) {
        PlannedWrite write = plan.writes().getFirst();
        return plan.isSimple()
                && plan.replacing().isEmpty()
                && !write.hasReferences()
                && write.keyIsUnique()
                && plan.steps().stream().noneMatch(PlannedStep.ParentsFirst.class::isInstance);
    }

    /** What is to be said of the load as a whole. */
    private List<Problem> warnings(Survey survey) {
        List<Problem> warnings = new ArrayList<>(survey.warnings());
        near.told().filter(told -> !near.hold()).ifPresent(warnings::add);
        return warnings;
    }

    private RunResult result(Survey survey, LimitGuard guard) {
        Optional<Problem> held =
                policy.planOnly() ? Optional.empty() : guard.crossed().or(() -> policy.firstWritten(survey.rows()));
        RunResult ended = RunBalance.ended(balance(survey.rows()), held, observer.stopRequested(), warnings(survey));
        return ended.state() == RunState.FINISHED ? complete(survey, guard, ended.balance()) : ended;
    }

    /** All rows are dealt with, or planned. */
    private RunResult complete(Survey survey, LimitGuard guard, Balance balance) {
        List<Problem> crossed = guard.crossed().map(List::of).orElse(List.of());
        return switch (policy.purpose()) {
            case WRITE -> new RunResult(RunState.FINISHED, List.of(), warnings(survey), balance);
            case PLAN_FIRST ->
                new RunResult(
                        crossed.isEmpty() ? RunState.FINISHED : RunState.HELD, crossed, warnings(survey), balance);
            case DRY_RUN, REHEARSAL -> {
                List<Problem> warnings = new ArrayList<>(warnings(survey));
                crossed.forEach(problem -> warnings.add(Problem.of(
                        ProblemCode.LIMIT_FORESEEN,
                        "A load of these rows is held: " + problem.sentence(),
                        "Correct the rows or the job, or change its limits.")));
                yield new RunResult(RunState.FINISHED, List.of(), warnings, balance);
            }
            case REVIEW -> {
                List<Problem> reasons = new ArrayList<>(List.of(AS_ASKED));
                reasons.addAll(crossed);
                yield new RunResult(RunState.HELD, reasons, warnings(survey), balance);
            }
        };
    }
}

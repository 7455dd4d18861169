package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.RecordFinder;
import dev.nachlauf.core.step.Shaping;
import dev.nachlauf.core.system.Writes;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * One attempt to carry a run to its end. After a crash the same run is simply executed again: what is done is left
 * alone, what is in doubt is settled, and the rest is written.
 */
public final class LoadRun {
    private final String run;
    private final long epoch;
    private final Plan plan;
    private final SourceSupply source;
    private final Function<String, Writes> systems;
    private final RunRecords records;
    private final RunObserver observer;
    private final RunPolicy policy;
    private final Path scratch;
    private final RecordFinder finder;

    /**
     * @param run the id of the run
     * @param epoch which take-over of the run this attempt is
     * @param systems the system of each connection that is written to, by its name in the job
     * @param finder answers lookups
     * @param scratch a folder for what spills to disk; what the steps made of the rows is kept in it until the run has
     *     ended, so that a later attempt writes the same rows in the same batches
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
        this.run = run;
        this.epoch = epoch;
        this.plan = plan;
        this.source = source;
        this.systems = systems;
        this.records = records;
        this.observer = observer;
        this.policy = policy;
        this.finder = finder;
        this.scratch = scratch;
    }

    /**
     * Reads, writes and accounts for every row.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn where the target can't be used; temporary ones may be tried again
     * @throws RunRecords.Fenced where another process has taken the run over
     */
    public RunResult execute() {
        Optional<RunResult> refused = shape();
        if (refused.isPresent()) {
            return refused.get();
        }
        try (Survey survey = Survey.of(plan, rows(), scratch, observer);
                Targets targets = Targets.open(plan, systems)) {
            settling(targets).settle();
            if (!survey.failures().isEmpty()) {
                return new RunResult(RunState.FAILED, said(survey), balance(survey.rows()));
            }
            Tally written = tally();
            RejectGuard guard = new RejectGuard(
                    plan.job().limits().rejected(),
                    policy,
                    survey.rows(),
                    survey.rejected() + survey.repeatedRows(),
                    counts());
            guard.add(written.elsewhere());
            Optional<Problem> held = guard.checkBefore();
            if (held.isPresent()) {
                return new RunResult(RunState.HELD, List.of(held.get()), survey.warnings(), balance(survey.rows()));
            }
            observer.writing(survey.rows());
            write(survey, targets, guard);
            return result(survey, guard);
        }
    }

    private Path shaped() {
        return scratch.resolve("shaped-rows");
    }

    /** Runs the steps once, where they see more than one row; a rule over the whole load may end the run here. */
    private Optional<RunResult> shape() {
        if (!plan.isShaped() || Files.exists(shaped())) {
            return Optional.empty();
        }
        try {
            Shaping.keep(plan, source.open(), finder, scratch, shaped(), observer::surveyed);
            return Optional.empty();
        } catch (CannotGoOn e) {
            if (e.isTemporary()) {
                throw e;
            }
            return Optional.of(new RunResult(RunState.FAILED, e.problems(), balance(0)));
        }
    }

    private Survey.RowSupply rows() {
        return plan.isShaped() ? any -> Shaping.kept(shaped()) : Survey.straight(source, scratch);
    }

    /** Only clears up what a crash left in doubt, so that a run that can't go on still accounts truly for what it wrote. */
    public void settle() {
        try (Targets targets = Targets.open(plan, systems)) {
            settling(targets).settle();
        }
    }

    private Settling settling(Targets targets) {
        return new Settling(plan, targets, records, new HalfWritten(plan, targets, records, rows(), run, epoch));
    }

    private Tally tally() {
        return records.chunks().stream().map(Chunk.Head::tally).reduce(Tally.NONE, Tally::plus);
    }

    private Balance balance(long rows) {
        Counts counts = counts();
        boolean simple = plan.isSimple()
                && new StepTally(plan).isLevel()
                && plan.writes().getFirst().when().isEmpty();
        return new Balance(Math.max(rows, counts.read()), counts, tally(), simple);
    }

    private Counts counts() {
        return records.chunks().stream().map(Chunk.Head::counts).reduce(Counts.NONE, Counts::plus);
    }

    private List<Problem> said(Survey survey) {
        List<Problem> problems = new ArrayList<>(survey.failures());
        problems.add(Problem.of(
                survey.failures().getFirst().code(),
                "The source could be read up to row " + survey.rows() + "; nothing of it was written by this run.",
                ""));
        return problems;
    }

    private void write(Survey survey, Targets first, RejectGuard guard) {
        Set<Integer> done = records.chunks().stream().map(Chunk.Head::batch).collect(Collectors.toUnmodifiableSet());
        int batchRows = Math.min(policy.batchRows(), first.batchRows());
        PlannedWrite write = plan.writes().getFirst();
        boolean several = plan.isSimple()
                && !write.hasReferences()
                && first.severalWriters()
                && write.keyIsUnique()
                && plan.steps().stream().noneMatch(PlannedStep.ParentsFirst.class::isInstance)
                && survey.rows() > batchRows;
        try (BatchReader batches =
                        new BatchReader(rows().open(plan), new Mapper(plan), survey.repeated(), done, batchRows);
                Targets second = several ? Targets.open(plan, systems) : first) {
            List<BatchWriter> writers = new ArrayList<>();
            writers.add(writer(first, guard));
            if (several) {
                writers.add(writer(second, guard));
            }
            new Pipeline(batches, writers, observer::stopRequested).run();
        }
    }

    private BatchWriter writer(Targets targets, RejectGuard guard) {
        return new BatchWriter(plan, targets, new References(finder), records, observer, guard, run, epoch);
    }

    private RunResult result(Survey survey, RejectGuard guard) {
        Balance balance = balance(survey.rows());
        Optional<String> gap = balance.gap();
        if (gap.isPresent()) {
            return new RunResult(
                    RunState.FAILED,
                    List.of(Problem.of(
                            ProblemCode.BALANCE_BROKEN, gap.get(), "This is a defect of Nachlauf; please report it.")),
                    survey.warnings(),
                    balance);
        }
        if (guard.crossed().isPresent()) {
            return new RunResult(RunState.HELD, List.of(guard.crossed().get()), survey.warnings(), balance);
        }
        RunState state = balance.unreached() > 0 ? RunState.STOPPED : RunState.FINISHED;
        return new RunResult(state, List.of(), survey.warnings(), balance);
    }
}

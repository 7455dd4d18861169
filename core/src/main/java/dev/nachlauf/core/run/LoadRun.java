package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.step.RowTransform;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Writes;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
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
    private final Writes system;
    private final RunRecords records;
    private final RunObserver observer;
    private final RunPolicy policy;
    private final Path scratch;

    /**
     * @param run the id of the run
     * @param epoch which take-over of the run this attempt is
     * @param scratch a folder for what spills to disk; emptied by the run
     */
    public LoadRun(
            String run,
            long epoch,
            Plan plan,
            SourceSupply source,
            Writes system,
            RunRecords records,
            RunObserver observer,
            RunPolicy policy,
            Path scratch) {
        this.run = run;
        this.epoch = epoch;
        this.plan = plan;
        this.source = source;
        this.system = system;
        this.records = records;
        this.observer = observer;
        this.policy = policy;
        this.scratch = scratch;
    }

    /**
     * Reads, writes and accounts for every row.
     *
     * @throws dev.nachlauf.core.problem.CannotGoOn where the target can't be used; temporary ones may be tried again
     * @throws RunRecords.Fenced where another process has taken the run over
     */
    public RunResult execute() {
        try (Survey survey = Survey.of(plan, source, scratch, observer);
                Target target = system.target(plan.target(), plan.use())) {
            Settling.settle(plan, target, records);
            Counts before = counts();
            if (!survey.failures().isEmpty()) {
                return new RunResult(RunState.FAILED, said(survey), new Balance(survey.rows(), before));
            }
            RejectGuard guard = new RejectGuard(
                    plan.job().limits().rejected(),
                    policy,
                    survey.rows(),
                    survey.rejected() + survey.repeated().count(),
                    before);
            Optional<Problem> held = guard.checkBefore();
            if (held.isPresent()) {
                return new RunResult(RunState.HELD, List.of(held.get()), new Balance(survey.rows(), before));
            }
            observer.writing(survey.rows());
            write(survey, target, guard);
            return result(survey, guard);
        }
    }

    /** Only clears up what a crash left in doubt, so that a run that can't go on still accounts truly for what it wrote. */
    public void settle() {
        try (Target target = system.target(plan.target(), plan.use())) {
            Settling.settle(plan, target, records);
        }
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

    private void write(Survey survey, Target first, RejectGuard guard) {
        Set<Integer> done = records.chunks().stream().map(Chunk.Head::batch).collect(Collectors.toUnmodifiableSet());
        int batchRows = Math.min(policy.batchRows(), first.traits().batchRows());
        boolean several = first.traits().severalWriters() && plan.keyIsUnique() && survey.rows() > batchRows;
        try (BatchReader batches =
                        new BatchReader(source.open(), new RowTransform(plan), survey.repeated(), done, batchRows);
                Target second = several ? system.target(plan.target(), plan.use()) : first) {
            List<BatchWriter> writers = new ArrayList<>();
            writers.add(writer(first, guard));
            if (several) {
                writers.add(writer(second, guard));
            }
            new Pipeline(batches, writers, observer::stopRequested).run();
        }
    }

    private BatchWriter writer(Target target, RejectGuard guard) {
        return new BatchWriter(plan, target, records, observer, guard, run, epoch);
    }

    private RunResult result(Survey survey, RejectGuard guard) {
        Balance balance = new Balance(survey.rows(), counts());
        Optional<String> gap = balance.gap();
        if (gap.isPresent()) {
            return new RunResult(
                    RunState.FAILED,
                    List.of(Problem.of(
                            ProblemCode.BALANCE_BROKEN, gap.get(), "This is a defect of Nachlauf; please report it.")),
                    balance);
        }
        if (guard.crossed().isPresent()) {
            return new RunResult(RunState.HELD, List.of(guard.crossed().get()), balance);
        }
        RunState state = balance.unreached() > 0 ? RunState.STOPPED : RunState.FINISHED;
        return new RunResult(state, List.of(), balance);
    }
}

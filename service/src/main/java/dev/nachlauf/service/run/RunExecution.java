package dev.nachlauf.service.run;

import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LoadRun;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunRecords;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.service.NachlaufSettings;
import dev.nachlauf.service.job.JobPlanning;
import dev.nachlauf.service.job.JobSystems;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.shared.Pins;
import dev.nachlauf.service.source.SourcePart;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/** One attempt to carry a run to its end. */
@Component
class RunExecution {
    private static final Logger LOG = LoggerFactory.getLogger(RunExecution.class);
    /** A defect may have passed with the moment; after so many attempts it has not. */
    private static final int MOST_ATTEMPTS = 5;

    private final RunStates states;
    private final Jobs jobs;
    private final JobPlanning planning;
    private final RunInput input;
    private final LedgerOfRun ledger;
    private final ProgressBoard board;
    private final NachlaufSettings settings;
    private final RunScratch scratch;

    RunExecution(
            RunStates states,
            Jobs jobs,
            JobPlanning planning,
            RunInput input,
            LedgerOfRun ledger,
            ProgressBoard board,
            NachlaufSettings settings,
            RunScratch scratch) {
        this.states = states;
        this.jobs = jobs;
        this.planning = planning;
        this.input = input;
        this.ledger = ledger;
        this.board = board;
        this.settings = settings;
        this.scratch = scratch;
    }

    /**
     * Takes the run over and carries it on. Ends normally when the run has ended or is held.
     *
     * @throws CannotGoOn where the target can't be reached: worth another attempt later
     */
    void attempt(long id) {
        Optional<RunEntity> claimed = states.claim(id);
        if (claimed.isEmpty()) {
            return;
        }
        RunEntity run = claimed.get();
        try {
            RunResult result = carryOut(run);
            states.end(run, result);
            if (result.state().isFinal()) {
                scratch.remove(id);
            }
        } catch (CannotGoOn e) {
            if (e.isTemporary() && states.mayWait(run, e.problems())) {
                throw e;
            }
            fail(run, e.problems());
        } catch (RunRecords.Fenced | DataAccessException | TransactionException e) {
            throw e;
        } catch (RuntimeException e) {
            LOG.error("run {} met a defect in attempt {}", id, run.epoch, e);
            if (run.epoch < MOST_ATTEMPTS) {
                throw e;
            }
            fail(
                    run,
                    List.of(Problem.of(
                            ProblemCode.INTERNAL,
                            "The run met a defect of Nachlauf and was given up after " + run.epoch + " attempts.",
                            "Please report it; the service's log says more.")));
        } finally {
            board.remove(id);
        }
    }

    private void fail(RunEntity run, List<Problem> reasons) {
        scratch.remove(run.id);
        Counts counts = ledger.counts(run.id);
        long rows = Math.max(states.rowsRead(run.id), counts.read());
        states.end(run, new RunResult(RunState.FAILED, reasons, new Balance(rows, counts)));
    }

    private RunResult carryOut(RunEntity run) {
        Pins pins = new Pins(run.pins);
        JobDefinition job = jobs.definition(jobs.version(run.jobName, run.jobVersion), pins);
        List<Problem> problems = new ArrayList<>();
        Map<String, @Nullable Object> parameters = Parameters.resolve(job, run.parameters, problems);
        Surroundings surroundings = planning.surroundings(
                job, parameters, JobPlanning.facts(run.id, run.startedBy, run.createdAt), pins, problems);
        Path folder = scratch.prepare(run.id);
        try (JobSystems systems = planning.systems(parameters, input.lookups(run.id))) {
            Plan plan = Planner.plan(job, surroundings, run.columns, systems, problems)
                    .orElseThrow(() -> new CannotGoOn(problems));
            LoadRun load = load(run, job, plan, systems, folder);
            if (!Descriptions.relevant(plan).equals(run.targetDescription)) {
                load.settle();
                throw new CannotGoOn(Problem.of(
                        ProblemCode.TARGET_CHANGED,
                        "The fields of " + run.targetRecords + " are no longer as they were when the run was started.",
                        "Check the job and start it again."));
            }
            return load.execute();
        }
    }

    private LoadRun load(RunEntity run, JobDefinition job, Plan plan, JobSystems systems, Path folder) {
        List<SourcePart> parts = input.parts(run.id);
        RunWatch watch = new RunWatch(
                run.id, board, () -> states.stopRequested(run.id), rows -> states.rows(run, rows), settings.pauseAt());
        RunPolicy policy =
                new RunPolicy(run.beyondLimit, RunPolicy.ORDINARY.batchRows(), RunPolicy.ORDINARY.mostRejects());
        return new LoadRun(
                String.valueOf(run.id),
                run.epoch,
                plan,
                () -> planning.reader(job, parts, run.columns, folder),
                systems::target,
                ledger.records(run.id, run.epoch),
                watch,
                policy,
                systems,
                folder);
    }
}

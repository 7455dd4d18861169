package dev.nachlauf.service.run;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.LoadRun;
import dev.nachlauf.core.run.ReviewedRun;
import dev.nachlauf.core.run.RunPolicy;
import dev.nachlauf.core.run.RunPolicy.Purpose;
import dev.nachlauf.core.run.RunRecords;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.service.NachlaufSettings;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.connection.OpenedSystems;
import dev.nachlauf.service.environment.ChosenEnvironment;
import dev.nachlauf.service.job.PreparedJob;
import dev.nachlauf.service.run.RunTransitions.Met;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.function.BooleanSupplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/** One attempt to carry a run to its end. */
@Component
class RunExecution {
    private static final Logger LOG = LoggerFactory.getLogger(RunExecution.class);
    /** A defect may have passed with the moment; after so many of them it has not. */
    private static final int MOST_DEFECTS = 5;

    private final RunTransitions transitions;
    private final RunFacts facts;
    private final RunEnding ending;
    private final RunGathering gathering;
    private final RunPreparation preparation;
    private final Connections connections;
    private final RunInput input;
    private final LedgerOfRun ledger;
    private final ProgressBoard board;
    private final NachlaufSettings settings;
    private final RunScratch scratch;
    private final RunSlots slots;
    private final RunRepository runs;
    private final RunUndoing undoing;
    private final LeftOut leftOut;
    private final LastTimes lastTimes;
    private final SecondPerson secondPerson;
    private final RunProof proof;
    private final RunIssuing issuing;

    RunExecution(
            RunTransitions transitions,
            RunFacts facts,
            RunEnding ending,
            RunGathering gathering,
            RunPreparation preparation,
            Connections connections,
            RunInput input,
            LedgerOfRun ledger,
            ProgressBoard board,
            NachlaufSettings settings,
            RunScratch scratch,
            RunSlots slots,
            RunRepository runs,
            RunUndoing undoing,
            LeftOut leftOut,
            LastTimes lastTimes,
            SecondPerson secondPerson,
            RunProof proof,
            RunIssuing issuing) {
        this.undoing = undoing;
        this.leftOut = leftOut;
        this.lastTimes = lastTimes;
        this.secondPerson = secondPerson;
        this.proof = proof;
        this.issuing = issuing;
        this.transitions = transitions;
        this.facts = facts;
        this.ending = ending;
        this.gathering = gathering;
        this.preparation = preparation;
        this.connections = connections;
        this.input = input;
        this.ledger = ledger;
        this.board = board;
        this.settings = settings;
        this.scratch = scratch;
        this.slots = slots;
        this.runs = runs;
    }

    /**
     * Takes the run over and carries it on. Ends normally when the run has ended, is held, or is tried again later.
     *
     * @param shuttingDown whether this process is about to end: whatever breaks off or fails then is no defect and no
     *     failure, and the run is left for the next start
     */
    void attempt(long id, BooleanSupplier shuttingDown) throws InterruptedException {
        try (RunSlots.Slot slot = slots.take()) {
            OptionalLong epoch = transitions.claim(id);
            if (epoch.isPresent()) {
                RunEntity run = runs.findById(id).orElseThrow();
                ChosenEnvironment.during(run.environment, () -> {
                    attempt(run, epoch.getAsLong(), slot, shuttingDown);
                    return null;
                });
            }
        }
    }

    private void attempt(RunEntity run, long epoch, RunSlots.Slot slot, BooleanSupplier shuttingDown) {
        RunWatch watch = new RunWatch(
                run.id,
                epoch,
                board,
                runs,
                facts,
                slot,
                run.jobName,
                settings.pauseAt(),
                () -> run.planning() ? RunWatch.PLANNING : RunWatch.WRITING);
        try (watch) {
            if (watch.stopRequested()) {
                throw new StopHeard();
            }
            toItsEnd(run, epoch, watch, shuttingDown);
        } catch (StopHeard e) {
            ending.end(run, epoch, ending.result(run, epoch, RunState.STOPPED, List.of()));
        } catch (RunRecords.Fenced | DataAccessException | TransactionException e) {
            throw e;
        } catch (RuntimeException | Error e) {
            if (shuttingDown.getAsBoolean()) {
                // what a target seems to say then may be nothing but our own interruption
                throw e;
            }
            if (e instanceof CannotGoOn why) {
                cannotGoOn(run, epoch, why);
            } else {
                defect(run, epoch, e);
            }
        } finally {
            board.remove(run.id);
        }
    }

    private void toItsEnd(RunEntity run, long epoch, RunWatch watch, BooleanSupplier shuttingDown) {
        RunResult result;
        // what was looked at while gathering is still connected when the rows come
        try (OpenedSystems open = new OpenedSystems(connections)) {
            Optional<String> nothing = run.gathered ? Optional.empty() : watch.fetching(() -> gather(run, epoch, open));
            if (nothing.isPresent()) {
                transitions.nothingToRead(run.id, epoch, nothing.get());
                return;
            }
            result = carryOut(run, epoch, open, watch);
        }
        if (result.state() == RunState.FAILED && shuttingDown.getAsBoolean()) {
            throw new IllegalStateException("the process ends; what failed then is left for the next start");
        }
        ending.end(run, epoch, result);
    }

    private Optional<String> gather(RunEntity run, long epoch, OpenedSystems open) {
        if (run.runMode().readsSource()) {
            return gathering.gather(run, epoch, open);
        }
        undoing.gather(run, epoch);
        return Optional.empty();
    }

    private void cannotGoOn(RunEntity run, long epoch, CannotGoOn why) {
        if (why.isTemporary()) {
            Problem reason = why.problems().stream()
                    .filter(problem -> problem.code().passes())
                    .findFirst()
                    .orElseThrow();
            String note = reason.sentence() + " The run tries again by itself.";
            Met met = transitions.waitForTarget(run.id, epoch, note, settings.patience());
            if (met.made()) {
                LOG.info(
                        "run {} of {} waits: {}",
                        run.id,
                        run.jobName,
                        reason.code().id());
                return;
            }
            if (met.epoch() != epoch || met.state() != RunState.RUNNING) {
                return;
            }
            if (ending.stopRequested(run.id)) {
                ending.end(run, epoch, ending.result(run, epoch, RunState.STOPPED, List.of()));
                return;
            }
        }
        ending.end(run, epoch, ending.result(run, epoch, RunState.FAILED, why.problems()));
    }

    private void defect(RunEntity run, long epoch, Throwable why) {
        LOG.error("run {} met a defect in attempt {}", run.id, epoch, why);
        if (why instanceof Error error) {
            // out of memory, most likely: the process ends and is started again
            throw error;
        }
        if (run.defects + 1 < MOST_DEFECTS) {
            OptionalInt defects = transitions.defect(run.id, epoch);
            LOG.warn("run {} has met {} defects", run.id, defects.orElse(0));
            return;
        }
        Problem problem = Problem.of(
                ProblemCode.INTERNAL,
                "The run met a defect of Nachlauf and was given up after " + MOST_DEFECTS + " of them.",
                "Please report it; the service's log says more.");
        ending.end(run, epoch, ending.result(run, epoch, RunState.FAILED, List.of(problem)));
    }

    private RunResult carryOut(RunEntity run, long epoch, OpenedSystems open, RunWatch watch) {
        if (!run.runMode().readsSource()) {
            return undoing.carryOut(run, records(run, epoch), watch);
        }
        Path folder = scratch.prepare(
                run.id, epoch, run.shapedEpoch == null ? OptionalLong.empty() : OptionalLong.of(run.shapedEpoch));
        try (PreparedJob prepared = preparation.of(run, open, folder)) {
            if (!Descriptions.relevant(prepared.plan()).equals(run.targetDescription)) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.TARGET_CHANGED,
                        "The fields of " + run.targetRecords + " are no longer as they were when the run was started.",
                        "Check the job and start it again."));
            }
            // last, for it reads all files: an attempt that fails over its target has not read them in vain
            input.verify(run.id);
            RunProof.Means means = new RunProof.Means(epoch, prepared, records(run, epoch), folder, watch);
            proof.begin(run, means);
            boolean released = run.isPlannedFirst() && !run.planning();
            RunResult result = released
                    ? reviewed(run, epoch, prepared, folder, watch).execute()
                    : secondPerson.checked(
                            run,
                            lastTimes.checked(
                                    run,
                                    prepared.plan().job(),
                                    load(run, epoch, prepared, folder, watch).execute()));
            RunResult proved = proof.checked(run, means, result);
            return issuing.delivered(run, epoch, prepared, ledger.chunks(run.id, LedgerStage.WRITTEN), folder, proved);
        }
    }

    private RunRecords records(RunEntity run, long epoch) {
        return ledger.records(ending.notes(run.id, epoch), run.stage());
    }

    static RunPolicy policy(RunEntity run, Purpose purpose) {
        return new RunPolicy(
                purpose,
                run.beyondLimit,
                run.batchRows,
                RunPolicy.ORDINARY.mostRejects(),
                run.firstRows == null || run.releasedAt != null ? RunPolicy.ALL : run.firstRows);
    }

    private LoadRun load(RunEntity run, long epoch, PreparedJob prepared, Path folder, RunWatch watch) {
        return new LoadRun(
                String.valueOf(run.id),
                epoch,
                prepared.plan(),
                prepared::read,
                prepared.systems()::target,
                records(run, epoch),
                watch,
                policy(
                        run,
                        run.plannedFirst ? Purpose.PLAN_FIRST : run.runMode().purpose()),
                prepared.systems(),
                folder);
    }

    /** The rest of a run that a person has released. */
    private ReviewedRun reviewed(RunEntity run, long epoch, PreparedJob prepared, Path folder, RunWatch watch) {
        return new ReviewedRun(
                String.valueOf(run.id),
                epoch,
                prepared.plan(),
                prepared::read,
                prepared.systems()::target,
                ledger.chunks(run.id, LedgerStage.PLANNED),
                records(run, epoch),
                leftOut.rows(run.id),
                watch,
                policy(run, Purpose.WRITE),
                folder);
    }
}

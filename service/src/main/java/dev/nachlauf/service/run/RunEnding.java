package dev.nachlauf.service.run;

import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.run.PendingBatches;
import dev.nachlauf.core.run.RunBalance;
import dev.nachlauf.core.run.RunRecords;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.service.NachlaufSettings;
import dev.nachlauf.service.environment.ChosenEnvironment;
import dev.nachlauf.service.job.JobPreparation;
import dev.nachlauf.service.job.JobSystems;
import dev.nachlauf.service.run.RunTransitions.Met;
import jakarta.persistence.EntityManager;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/** Ends runs truly: whatever ended them, first it is asked what became of the batches that are in doubt. */
@Component
class RunEnding {
    private static final Logger LOG = LoggerFactory.getLogger(RunEnding.class);

    private final RunTransitions transitions;
    private final RunFacts facts;
    private final RunRepository runs;
    private final RunInput input;
    private final JobPreparation preparation;
    private final LedgerOfRun ledger;
    private final RunScratch scratch;
    private final EntityManager entities;
    private final TransactionTemplate transactions;
    private final Duration heldFor;

    RunEnding(
            RunTransitions transitions,
            RunFacts facts,
            RunRepository runs,
            RunInput input,
            JobPreparation preparation,
            LedgerOfRun ledger,
            RunScratch scratch,
            EntityManager entities,
            TransactionTemplate transactions,
            NachlaufSettings settings) {
        this.heldFor = settings.heldFor();
        this.transitions = transitions;
        this.facts = facts;
        this.runs = runs;
        this.input = input;
        this.preparation = preparation;
        this.ledger = ledger;
        this.scratch = scratch;
        this.entities = entities;
        this.transactions = transactions;
    }

    RunNotes notes(long run, long epoch) {
        return new RunNotes(run, epoch, facts, entities, scratch);
    }

    boolean stopRequested(long run) {
        return runs.stopRequested(run).orElse(true);
    }

    /**
     * The result of a run that ends without having been carried to its end. What can't be settled now stays in doubt, is
     * counted so, and is asked about later.
     */
    RunResult result(RunEntity run, long epoch, RunState state, List<Problem> reasons) {
        RunRecords records = ledger.records(notes(run.id, epoch), run.stage());
        try {
            settle(run, records);
        } catch (CannotGoOn e) {
            LOG.info(
                    "run {} leaves rows in doubt: {}",
                    run.id,
                    e.problems().getFirst().code().id());
        }
        Balance known = RunBalance.of(0, records.chunks(), false);
        long rows = Math.max(
                runs.findById(run.id).orElseThrow().rowsRead, known.counts().read() + known.unknown());
        return new RunResult(state, reasons, RunBalance.of(rows, records.chunks(), false));
    }

    /** Asks what became of batches in doubt; false where some still are. */
    boolean settle(RunEntity run, RunRecords records) {
        if (!transitions.isInDoubt(run.id)) {
            return true;
        }
        // the connections' names were filled in when the run was started
        try (JobSystems systems = preparation.systems()) {
            return new PendingBatches(systems::target, records).settle(run.ledgerWrites());
        }
    }

    /** Ends a run that is still ours; what only it needed is removed when that is committed. */
    void end(RunEntity run, long epoch, RunResult result) {
        if (run.plannedFirst && run.planning() && result.state() == RunState.FINISHED) {
            planned(run, epoch, result);
            return;
        }
        Optional<Met> met = Optional.ofNullable(transactions.execute(status -> {
            Met ended = transitions.end(run.id, epoch, result, run.warnings, heldFor);
            if (ended.made() && result.state() == RunState.FINISHED && run.moves()) {
                input.markTaken(run);
                input.moveWatermark(run);
            }
            return ended;
        }));
        if (met.isPresent() && met.get().made()) {
            LOG.info("run {} of {} is {}", run.id, run.jobName, result.state().word());
            if (result.state().isFinal()) {
                scratch.remove(run.id);
            }
        }
    }

    /** What was planned is written now, for no limit was crossed; what was only foreseen is told anew when it comes true. */
    private void planned(RunEntity run, long epoch, RunResult plan) {
        transactions.executeWithoutResult(status -> {
            if (transitions.planned(run.id, epoch, plan, run.warnings).made()) {
                ledger.forgetForeseen(run.id);
            }
        });
    }

    /** Asks once more about the rows of a run that has ended; throws where it has to be asked again. */
    void settleLater(long id) {
        transitions.claimForSettling(id).ifPresent(epoch -> {
            RunEntity run = runs.findById(id).orElseThrow();
            try {
                if (ChosenEnvironment.during(
                        run.environment, () -> settle(run, ledger.records(notes(id, epoch), run.stage())))) {
                    LOG.info("run {} has no rows in doubt any more", id);
                    return;
                }
            } catch (DataAccessException | TransactionException e) {
                throw e;
            } catch (CannotGoOn e) {
                LOG.info(
                        "run {} still has rows in doubt: {}",
                        id,
                        e.problems().getFirst().code().id());
            }
            throw new StillInDoubt(id);
        });
    }

    /** Some rows can't be settled now; the scheduler asks again later. */
    static final class StillInDoubt extends RuntimeException {
        private static final long serialVersionUID = 1L;

        StillInDoubt(long run) {
            super("run " + run + " still has rows in doubt", null, false, false);
        }
    }
}

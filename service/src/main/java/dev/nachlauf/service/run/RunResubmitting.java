package dev.nachlauf.service.run;

import dev.nachlauf.api.ResubmitRejects;
import dev.nachlauf.api.RunView;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.service.NachlaufSettings;
import dev.nachlauf.service.environment.ChosenEnvironment;
import dev.nachlauf.service.job.JobPreparation;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.job.Promotions;
import dev.nachlauf.service.shared.Pins;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Runs that send the rejected rows of another one through its job again. */
@Component
public class RunResubmitting {
    private final RunRepository runs;
    private final RunViews views;
    private final RunTransitions transitions;
    private final Jobs jobs;
    private final Promotions promotions;
    private final JobPreparation preparation;
    private final RunInput input;
    private final ObjectProvider<SentRows> sent;
    private final EntityManager entities;
    private final TransactionTemplate transactions;
    private final NachlaufSettings settings;
    private final Clock clock;

    /** The rows are looked up late, for rejects are built on runs. */
    RunResubmitting(
            RunRepository runs,
            RunViews views,
            RunTransitions transitions,
            Jobs jobs,
            Promotions promotions,
            JobPreparation preparation,
            RunInput input,
            ObjectProvider<SentRows> sent,
            EntityManager entities,
            TransactionTemplate transactions,
            NachlaufSettings settings,
            Clock clock) {
        this.runs = runs;
        this.views = views;
        this.transitions = transitions;
        this.jobs = jobs;
        this.promotions = promotions;
        this.preparation = preparation;
        this.input = input;
        this.sent = sent;
        this.entities = entities;
        this.transactions = transactions;
        this.settings = settings;
        this.clock = clock;
    }

    /** Starts a run of the rows that another one has rejected and nobody has set aside, or says why there can be none. */
    public RunView start(long id, ResubmitRejects request, String by) {
        RunEntity other = views.entity(id);
        if (RunState.of(other.state).filter(RunState::isFinal).isEmpty()) {
            throw refused(other, "It is " + other.state + ".", "Wait until it has ended.");
        }
        if (other.resubmits != null) {
            throw refused(
                    other,
                    "It sends rows of run " + other.resubmits + " again, and their rejects are kept there.",
                    "Send those of run " + other.resubmits + ".");
        }
        if (input.parts(other.id).isEmpty()) {
            throw refused(other, "It has read no source.", "");
        }
        RunEntity run = ChosenEnvironment.during(other.environment, () -> again(other, by));
        Runs.refuseOverlap(runs, run);
        try {
            transactions.executeWithoutResult(status -> {
                run.id = transitions.nextNumber();
                entities.persist(run);
                // the repository tells which rule was broken in words that are understood below
                runs.flush();
                long rows = sent.getObject().give(other.id, request.ids(), run.id);
                if (rows == 0) {
                    throw refused(other, "It has no open rejects.", "");
                }
                transitions.started(
                        run.id,
                        by + " asks for it: " + rows + (rows == 1 ? " reject" : " rejects") + " of run " + other.id
                                + " again, with version " + run.jobVersion + " of " + run.jobName + ".");
            });
            return views.of(run);
        } catch (DataIntegrityViolationException e) {
            throw Runs.blocked(run.jobName, "Another run of it was started in the same moment.");
        }
    }

    private static CannotGoOn refused(RunEntity run, String why, String remedy) {
        return new CannotGoOn(Problem.of(
                ProblemCode.RUN_STATE, "The rejects of run " + run.id + " can't be sent again. " + why, remedy));
    }

    private RunEntity again(RunEntity other, String by) {
        Jobs.Version version = promotions.inForce(other.jobName);
        JobDefinition job = jobs.definition(version, Pins.NEWEST);
        List<Problem> problems = new ArrayList<>();
        Parameters.resolve(job, other.parameters, problems);
        CannotGoOn.overErrorsAmong(problems);
        RunEntity run = RunEntity.waiting(version, RunMode.WRITE, by, clock.instant(), settings.batchRows());
        run.environment = other.environment;
        run.parameters = other.parameters;
        run.resubmits = other.id;
        // a share of a few rows says nothing of the load
        run.beyondLimit = true;
        run.sourceName = "rejects of run " + other.id;
        run.targetConnection = other.targetConnection;
        run.targetRecords = other.targetRecords;
        run.writeName = other.writeName;
        run.pins = preparation.pins(job, version.version().document());
        return run;
    }
}

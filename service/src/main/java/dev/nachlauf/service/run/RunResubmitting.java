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
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.job.JobPreparation;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.job.Promotions;
import dev.nachlauf.service.shared.Pins;
import dev.nachlauf.service.store.StoredTell;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;

/** Runs that send the rejected rows of another one through its job again. */
@Component
public class RunResubmitting {
    private final NewRuns begin;
    private final RunViews views;
    private final Jobs jobs;
    private final Promotions promotions;
    private final JobPreparation preparation;
    private final RunInput input;
    private final ObjectProvider<SentRows> sent;
    private final FileStore files;
    private final NachlaufSettings settings;
    private final Clock clock;

    /** The rows are looked up late, for rejects are built on runs. */
    RunResubmitting(
            NewRuns begin,
            RunViews views,
            Jobs jobs,
            Promotions promotions,
            JobPreparation preparation,
            RunInput input,
            ObjectProvider<SentRows> sent,
            FileStore files,
            NachlaufSettings settings,
            Clock clock) {
        this.files = files;
        this.begin = begin;
        this.views = views;
        this.jobs = jobs;
        this.promotions = promotions;
        this.preparation = preparation;
        this.input = input;
        this.sent = sent;
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
        Supplier<@Nullable List<Long>> ids = ids(other, request, by);
        RunEntity run = ChosenEnvironment.during(other.environment, () -> again(other, request.jobVersion(), by));
        return views.of(begin.begin(run, number -> {
            long rows = sent.getObject().give(other.id, ids.get(), number);
            if (rows == 0) {
                throw refused(other, "It has no open rejects.", "");
            }
            return by + " asks for it: " + rows + (rows == 1 ? " reject" : " rejects") + " of run " + other.id
                    + " again, with version " + run.jobVersion + " of " + run.jobName + ".";
        }));
    }

    private Supplier<@Nullable List<Long>> ids(RunEntity other, ResubmitRejects request, String by) {
        if (request.file() == null) {
            return request::ids;
        }
        String name = Objects.requireNonNullElse(request.fileName(), "the workbook");
        Supplier<List<Long>> mended = sent.getObject().mended(files.find(request.file(), name), other.id, by);
        return mended::get;
    }

    private static CannotGoOn refused(RunEntity run, String why, String remedy) {
        return new CannotGoOn(Problem.of(
                ProblemCode.RUN_STATE, "The rejects of run " + run.id + " can't be sent again. " + why, remedy));
    }

    private RunEntity again(RunEntity other, @Nullable Integer asked, String by) {
        Jobs.Version version =
                asked == null ? promotions.inForce(other.jobName) : promotions.chosen(other.jobName, asked);
        JobDefinition job = jobs.definition(version, Pins.NEWEST);
        List<Problem> problems = new ArrayList<>();
        Map<String, @Nullable Object> parameters = Parameters.resolve(job, other.parameters, problems);
        CannotGoOn.overErrorsAmong(problems);
        RunEntity run = WaitingRun.of(version, RunMode.WRITE, by, clock.instant(), settings.batchRows());
        run.environment = other.environment;
        run.parameters = other.parameters;
        run.resubmits = other.id;
        // a share of a few rows says nothing of the load
        run.beyondLimit = true;
        run.sourceName = "rejects of run " + other.id;
        run.targetConnection = other.targetConnection;
        run.targetRecords = other.targetRecords;
        run.writeName = other.writeName;
        run.tells = StoredTell.of(job, parameters);
        run.pins = preparation.pins(job, version.version().document());
        return run;
    }
}

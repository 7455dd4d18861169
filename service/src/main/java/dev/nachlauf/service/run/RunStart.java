package dev.nachlauf.service.run;

import dev.nachlauf.api.FileView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.core.job.EnvironmentDefinition;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.NachlaufSettings;
import dev.nachlauf.service.environment.Environments;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.job.JobPreparation;
import dev.nachlauf.service.job.JobSources;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.job.Promotions;
import dev.nachlauf.service.shared.Pins;
import dev.nachlauf.service.store.StoredTell;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Starts a run: what can be checked without asking another system is checked here. The source is fetched by the run itself,
 * see {@link RunGathering}.
 */
@Component
class RunStart {
    private final RunRepository runs;
    private final NewRuns begin;
    private final Jobs jobs;
    private final Promotions promotions;
    private final Environments environments;
    private final JobSources sources;
    private final FileStore files;
    private final JobPreparation preparation;
    private final RunInput input;
    private final NachlaufSettings settings;
    private final Clock clock;

    RunStart(
            RunRepository runs,
            NewRuns begin,
            Jobs jobs,
            Promotions promotions,
            Environments environments,
            JobSources sources,
            FileStore files,
            JobPreparation preparation,
            RunInput input,
            NachlaufSettings settings,
            Clock clock) {
        this.runs = runs;
        this.begin = begin;
        this.jobs = jobs;
        this.promotions = promotions;
        this.environments = environments;
        this.sources = sources;
        this.files = files;
        this.preparation = preparation;
        this.input = input;
        this.settings = settings;
        this.clock = clock;
    }

    RunEntity start(StartRun request, String by) {
        return start(request, promotions.inForce(request.job()), by);
    }

    /** @param version the version of the job that is carried out */
    RunEntity start(StartRun request, Jobs.Version version, String by) {
        if (version.version().draft()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.JOB_DRAFT,
                    "The newest version of " + version.name() + " is a draft with errors.",
                    "Correct it and save it; job show lists what is wrong."));
        }
        JobDefinition job = jobs.definition(version, Pins.NEWEST);
        List<Problem> problems = new ArrayList<>();
        RunEntity run =
                WaitingRun.of(version, RunMode.asked(request.mode()), by, clock.instant(), settings.batchRows());
        EnvironmentDefinition environment = environments.current();
        run.environment = environment.name();
        // asked before the sources are looked at
        Runs.refuseOverlap(runs, run);
        run.parameters = environment.parameters(job, Objects.requireNonNullElse(request.parameters(), Map.of()));
        choose(run, request);
        Map<String, @Nullable Object> parameters = Parameters.resolve(job, run.parameters, problems);
        sources.checkFormat(job, problems);
        CannotGoOn.overErrorsAmong(problems);
        Optional<FileView> given = Optional.ofNullable(request.file())
                .map(hash -> files.find(hash, Objects.requireNonNullElse(request.fileName(), "upload")));
        if (given.isEmpty()) {
            sources.requireGiven(job);
        }
        run.sourceName = given.map(FileView::name).orElseGet(() -> sources.wanted(job, parameters));
        run.targetConnection = JobDefinition.fill(job.write().connection().value(), parameters);
        run.targetRecords = JobDefinition.fill(job.write().records().value(), parameters);
        run.writeName = job.write().name();
        run.tells = StoredTell.of(job, parameters);
        run.pins = preparation.pins(job, version.version().document());
        return begin.begin(run, number -> {
            given.ifPresent(file -> input.saveGiven(number, file));
            return run.startedBy + " asks for it: version " + run.jobVersion + " of " + run.jobName
                    + (run.environment.isEmpty() ? "" : " in " + run.environment)
                    + (run.runMode() == RunMode.WRITE
                            ? "."
                            : ", " + run.runMode().word() + ".");
        });
    }

    /** Notes which rows the run is about; what is malformed is told now. */
    private static void choose(RunEntity run, StartRun request) {
        run.chosenRows = request.rows();
        run.chosenWhere = request.where();
        run.firstRows = request.first();
        run.choice();
        boolean writes = run.runMode() == RunMode.WRITE;
        if (request.first() != null && (request.first() < 1 || !writes)) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REQUEST_MALFORMED,
                    writes ? "first is a number of rows, from 1." : "Only a run that writes can write its first rows.",
                    writes ? "" : "Leave out either --first, or --dry-run, --rehearse and --hold."));
        }
    }
}

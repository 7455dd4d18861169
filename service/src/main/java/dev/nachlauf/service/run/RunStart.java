package dev.nachlauf.service.run;

import dev.nachlauf.api.FileView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.HoldsFiles.FoundFile;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.job.JobPlanning;
import dev.nachlauf.service.job.Jobs;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Starts a run: everything that can be checked before a row is read is checked here, and the source is kept. */
@Component
class RunStart {
    private final RunRepository runs;
    private final Jobs jobs;
    private final JobPlanning planning;
    private final FileStore files;
    private final RunScheduler scheduler;
    private final TransactionTemplate transactions;
    private final Clock clock;

    RunStart(
            RunRepository runs,
            Jobs jobs,
            JobPlanning planning,
            FileStore files,
            RunScheduler scheduler,
            TransactionTemplate transactions,
            Clock clock) {
        this.runs = runs;
        this.jobs = jobs;
        this.planning = planning;
        this.files = files;
        this.scheduler = scheduler;
        this.transactions = transactions;
        this.clock = clock;
    }

    RunEntity start(StartRun request, String by) {
        Jobs.Version version = jobs.newest(request.job());
        if (version.version().draft()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.JOB_DRAFT,
                    "The newest version of " + version.name() + " is a draft with errors.",
                    "Correct it and save it; job show lists what is wrong."));
        }
        Runs.refuseOverlap(runs, version.jobId());
        JobDefinition job = version.definition();
        Map<String, String> given = Objects.requireNonNullElse(request.parameters(), Map.of());
        List<Problem> problems = new ArrayList<>();
        Map<String, @Nullable Object> parameters = Parameters.resolve(job, given, problems);
        refuse(problems);
        planning.checkFormat(job, problems);
        refuse(problems);
        FileView file = file(request, job, parameters, problems);
        RunEntity run = entity(version, file, given, by);
        try (SourceReader reader = planning.reader(job, file.name(), files.open(file.hash()))) {
            run.header = reader.header();
            run.formatOptions = reader.options();
        }
        target(run, job, parameters, problems);
        try {
            return Objects.requireNonNull(transactions.execute(status -> {
                RunEntity saved = runs.saveAndFlush(run);
                scheduler.schedule(Objects.requireNonNull(saved.id));
                return saved;
            }));
        } catch (DataIntegrityViolationException e) {
            throw Runs.blocked(job.name(), "Another run of it was started in the same moment.");
        }
    }

    private static void refuse(List<Problem> problems) {
        if (problems.stream().anyMatch(problem -> !problem.code().isWarning())) {
            throw new CannotGoOn(problems);
        }
    }

    private RunEntity entity(Jobs.Version version, FileView file, Map<String, String> given, String by) {
        RunEntity run = new RunEntity();
        run.jobId = version.jobId();
        run.jobName = version.name();
        run.jobVersion = version.version().version();
        run.state = "waiting";
        run.note = "";
        run.reasons = List.of();
        run.fileHash = file.hash();
        run.fileName = file.name();
        run.fileSize = file.size();
        run.parameters = new HashMap<>(given);
        run.startedBy = by;
        run.createdAt = clock.instant();
        return run;
    }

    private void target(
            RunEntity run, JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems) {
        Optional<Writes> target = planning.target(job, parameters, problems);
        refuse(problems);
        try (Writes system = target.orElseThrow()) {
            Optional<RecordDescription> description = planning.describe(job, parameters, system, problems);
            Optional<Plan> plan =
                    description.flatMap(found -> planning.plan(job, parameters, run.header, found, problems));
            refuse(problems);
            run.fields = plan.orElseThrow().fieldNames();
            run.keyFields = plan.get().keyNames();
            run.writeName = job.write().name();
            run.targetConnection = JobDefinition.fill(job.write().connection().value(), parameters);
            run.targetRecords = description.orElseThrow().name();
            run.targetDescription = Descriptions.relevant(description.get(), run.fields);
        }
    }

    /** The uploaded file, or the one that the job names, copied into the store. */
    private FileView file(
            StartRun request, JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems) {
        if (request.file() != null) {
            return files.find(request.file(), Objects.requireNonNullElse(request.fileName(), "upload"));
        }
        Optional<HoldsFiles> place = planning.place(job, parameters, problems);
        refuse(problems);
        try (HoldsFiles open = place.orElseThrow()) {
            List<FoundFile> found = planning.files(job, parameters, open);
            String wanted = JobDefinition.fill(job.read().file().value(), parameters);
            if (found.isEmpty()) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.FILE_MISSING,
                        "No file " + wanted + " is in "
                                + job.read().connection().value() + ".",
                        "Put it there, correct file in the job, or give one with --file."));
            }
            if (found.size() > 1) {
                throw new CannotGoOn(Problem.of(
                        ProblemCode.FILE_MISSING,
                        found.size() + " files match " + wanted + ", but a run reads one so far: "
                                + found.getFirst().name() + ", " + found.get(1).name()
                                + (found.size() > 2 ? ", …" : "."),
                        "Name one of them in the job, or give it with --file."));
            }
            try (InputStream bytes = open.open(found.getFirst())) {
                return files.keep(found.getFirst().name(), bytes);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }
}

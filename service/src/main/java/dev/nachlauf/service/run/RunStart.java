package dev.nachlauf.service.run;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.SensitiveColumns;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.service.NachlaufSettings;
import dev.nachlauf.service.file.ScratchFolder;
import dev.nachlauf.service.file.ScratchSpace;
import dev.nachlauf.service.job.JobPreparation;
import dev.nachlauf.service.job.JobPreparation.Circumstances;
import dev.nachlauf.service.job.JobSources;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.job.PreparedJob;
import dev.nachlauf.service.shared.Pins;
import dev.nachlauf.service.source.OpenedSource;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.source.Sources;
import dev.nachlauf.service.store.Json;
import dev.nachlauf.service.web.ProblemViews;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Starts a run: everything that can be checked before a row is read is checked here, and the source is kept. */
@Component
class RunStart {
    private static final String NOTHING_NEW = "nothing new";
    private static final int SHOWN = 5;

    private final RunRepository runs;
    private final Jobs jobs;
    private final JobSources sources;
    private final JobPreparation preparation;
    private final RunInput input;
    private final RunTransitions transitions;
    private final EntityManager entities;
    private final NachlaufSettings settings;
    private final TransactionTemplate transactions;
    private final Clock clock;

    private final ScratchSpace scratchSpace;

    RunStart(
            RunRepository runs,
            Jobs jobs,
            JobSources sources,
            JobPreparation preparation,
            RunInput input,
            RunTransitions transitions,
            EntityManager entities,
            NachlaufSettings settings,
            TransactionTemplate transactions,
            Clock clock,
            ScratchSpace scratchSpace) {
        this.scratchSpace = scratchSpace;
        this.runs = runs;
        this.jobs = jobs;
        this.sources = sources;
        this.preparation = preparation;
        this.input = input;
        this.transitions = transitions;
        this.entities = entities;
        this.settings = settings;
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
        JobDefinition job = jobs.definition(version, Pins.NEWEST);
        Map<String, String> given = Objects.requireNonNullElse(request.parameters(), Map.of());
        List<Problem> problems = new ArrayList<>();
        Map<String, @Nullable Object> parameters = Parameters.resolve(job, given, problems);
        refuse(problems);
        sources.checkFormat(job, problems);
        refuse(problems);
        RunInput.Input read = input.fetch(request, version.jobId(), job, parameters);
        RunEntity run = entity(version, read, given, by);
        run.pins = preparation.pins(job, version.version().document());
        run.watermark = read.watermark();
        run.readAfter = read.readAfter();
        if (read.files().isEmpty()) {
            return nothingNew(run, job, parameters, read);
        }
        try (ScratchFolder scratch = scratchSpace.create()) {
            List<SourcePart> parts = read.records()
                    ? List.of(Sources.records(read.files().getFirst()))
                    : sources.parts(job, read.files(), scratch.path());
            OpenedSource source = sources.look(job, parts, scratch.path());
            run.columns = source.sample().columns();
            run.warnings = warnings(run, read);
            return saved(run, source.parts(), target(run, job, parameters, source, problems));
        }
    }

    /** Nothing to read is no failure: the run has finished before it began. */
    private RunEntity nothingNew(
            RunEntity run, JobDefinition job, Map<String, @Nullable Object> parameters, RunInput.Input read) {
        run.state = RunState.FINISHED.word();
        run.note = read.left() == 0
                ? "No file is there."
                : read.left() == 1
                        ? "Nothing new: the one file there was loaded before."
                        : "Nothing new: the " + read.left() + " files there were loaded before.";
        run.startedAt = run.createdAt;
        run.endedAt = run.createdAt;
        run.columns = List.of();
        run.fields = List.of();
        run.keyFields = List.of();
        run.writeName = job.write().name();
        run.targetConnection = JobDefinition.fill(job.write().connection().value(), parameters);
        run.targetRecords = JobDefinition.fill(job.write().records().value(), parameters);
        run.targetDescription = "";
        return Objects.requireNonNull(transactions.execute(status -> insert(run)));
    }

    private RunEntity insert(RunEntity run) {
        run.id = transitions.nextNumber();
        entities.persist(run);
        entities.flush();
        return run;
    }

    private RunEntity saved(RunEntity run, List<SourcePart> parts, Map<String, List<SourcePart>> lookups) {
        try {
            return Objects.requireNonNull(transactions.execute(status -> {
                insert(run);
                input.save(run.id, parts, lookups);
                transitions.started(run.id);
                return run;
            }));
        } catch (DataIntegrityViolationException e) {
            throw Runs.blocked(run.jobName, "Another run of it was started in the same moment.");
        }
    }

    private static void refuse(List<Problem> problems) {
        if (problems.stream().anyMatch(problem -> !problem.code().isWarning())) {
            throw new CannotGoOn(problems);
        }
    }

    /** A column that was there until now would otherwise just not be loaded any more. */
    private List<ProblemView> warnings(RunEntity run, RunInput.Input read) {
        List<Problem> warnings = new ArrayList<>(read.warnings());
        List<String> now = run.columns.stream().map(SourceColumn::name).toList();
        runs.findFirstByJobIdAndStateAndSourceNameNotOrderByIdDesc(run.jobId, RunState.FINISHED.word(), NOTHING_NEW)
                .ifPresent(last -> {
                    List<String> lost = last.columns.stream()
                            .map(SourceColumn::name)
                            .filter(name -> !now.contains(name))
                            .toList();
                    if (!lost.isEmpty() && lost.size() == last.columns.size()) {
                        throw new CannotGoOn(
                                Problem.of(
                                        ProblemCode.FILE_HEADER,
                                        run.sourceName + " has none of the columns that earlier runs of " + run.jobName
                                                + " have read ("
                                                + String.join(", ", lost.subList(0, Math.min(SHOWN, lost.size())))
                                                + (lost.size() > SHOWN ? " …" : "") + "): it is probably another file.",
                                        "Give the right file. If this is how the file looks from now on, copy the job under a new name."));
                    }
                    if (!lost.isEmpty()) {
                        warnings.add(Problem.of(
                                ProblemCode.COLUMN_LOST,
                                "Earlier runs had " + (lost.size() == 1 ? "the column " : "the columns ")
                                        + String.join(", ", lost) + ", and " + run.sourceName + " has not.",
                                "What was loaded from there is left as it is. Ask the sender whether it was renamed."));
                    }
                });
        return ProblemViews.of(warnings);
    }

    private RunEntity entity(Jobs.Version version, RunInput.Input read, Map<String, String> given, String by) {
        RunEntity run = new RunEntity();
        run.jobId = version.jobId();
        run.jobName = version.name();
        run.jobVersion = version.version().version();
        run.state = "waiting";
        run.note = "";
        run.reasons = List.of();
        run.sourceName = read.files().isEmpty() ? NOTHING_NEW : read.name();
        run.warnings = ProblemViews.of(read.warnings());
        run.parameters = new HashMap<>(given);
        run.startedBy = by;
        run.createdAt = clock.instant();
        run.batchRows = settings.batchRows();
        run.totals = RunTotals.NONE;
        run.tally = Tally.NONE;
        run.changedFields = Map.of();
        return run;
    }

    /** Notes what the run writes to; the result is the files in which it looks records up. */
    private Map<String, List<SourcePart>> target(
            RunEntity run,
            JobDefinition job,
            Map<String, @Nullable Object> parameters,
            OpenedSource source,
            List<Problem> problems) {
        Circumstances circumstances = new Circumstances(
                new Pins(run.pins),
                new Pins(run.pins),
                parameters,
                JobPreparation.facts(null, run.startedBy, run.createdAt),
                Map.of());
        try (PreparedJob prepared = preparation.prepare(job, circumstances, run.columns, RunStart::notYet, problems)) {
            prepared.sound().ifPresent(sound -> sources.checkLacks(source, sound, problems));
            refuse(problems);
            Plan plan = prepared.plan();
            PlannedWrite main = plan.main();
            run.fields = main.fieldNames();
            run.keyFields = main.keyNames();
            run.writeName = main.name();
            run.targetConnection = JobDefinition.fill(main.connection(), parameters);
            run.targetRecords = main.target().name();
            run.targetDescription = Descriptions.relevant(plan);
            run.sensitiveColumns = SensitiveColumns.of(plan);
            run.writes = plan.writes().stream()
                    .map(write -> new Json.RunWrite(
                            write.name(),
                            JobDefinition.fill(write.connection(), parameters),
                            write.target().name(),
                            write.fieldNames(),
                            write.keyNames(),
                            write == main,
                            write.sensitiveFields()))
                    .toList();
            return prepared.systems().kept();
        }
    }

    private static SourceReader notYet() {
        throw new IllegalStateException("a run is read when it is carried out");
    }
}

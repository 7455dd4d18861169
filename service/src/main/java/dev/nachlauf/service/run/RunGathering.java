package dev.nachlauf.service.run;

import dev.nachlauf.core.drift.ColumnTraits;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.plan.IdFields;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.Removal;
import dev.nachlauf.core.plan.SensitiveColumns;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.service.connection.OpenedSystems;
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
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The first stage of a run: what it reads is fetched and kept with it, and everything that can be checked before a row is
 * read is checked. An attempt that breaks off here is followed by one that fetches anew.
 */
@Component
class RunGathering {
    /** What stands for the source's name in a run that had nothing to read. */
    static final String NOTHING_NEW = "nothing new";

    private final LastTimes lastTimes;
    private final Jobs jobs;
    private final JobSources sources;
    private final JobPreparation preparation;
    private final RunInput input;
    private final RunFacts facts;
    private final RunFence fence;
    private final RunLog log;
    private final ScratchSpace scratchSpace;
    private final TransactionTemplate transactions;

    RunGathering(
            LastTimes lastTimes,
            Jobs jobs,
            JobSources sources,
            JobPreparation preparation,
            RunInput input,
            RunFacts facts,
            RunFence fence,
            RunLog log,
            ScratchSpace scratchSpace,
            TransactionTemplate transactions) {
        this.lastTimes = lastTimes;
        this.jobs = jobs;
        this.sources = sources;
        this.preparation = preparation;
        this.input = input;
        this.facts = facts;
        this.fence = fence;
        this.log = log;
        this.scratchSpace = scratchSpace;
        this.transactions = transactions;
    }

    /**
     * Fetches what a run reads, and notes in the run what it will read and write.
     *
     * @param open the systems of this attempt
     * @return why there is nothing to read; empty where there is something
     * @throws CannotGoOn where the run can't be carried out, with all that is wrong
     */
    Optional<String> gather(RunEntity run, long epoch, OpenedSystems open) {
        JobDefinition job = jobs.definition(jobs.version(run.jobName, run.jobVersion), new Pins(run.pins));
        List<Problem> problems = new ArrayList<>();
        Map<String, @Nullable Object> parameters = Parameters.resolve(job, run.parameters, problems);
        // a file that somebody has given lies in no place of its own
        boolean givesBack = job.putBack().isPresent() && run.moves() && !input.isGiven(run.id);
        RunInput.Input read = input.fetch(run, job, parameters);
        run.watermark = read.watermark();
        run.readAfter = read.readAfter();
        if (read.files().isEmpty()) {
            return Optional.of(nothingNew(read.left()));
        }
        // while the source is looked at, its targets are connected to
        job.writes()
                .forEach(write ->
                        open.anticipate(JobDefinition.fill(write.connection().value(), parameters)));
        run.sourceName = run.resubmits == null ? read.name() : run.sourceName;
        try (ScratchFolder scratch = scratchSpace.create()) {
            List<SourcePart> parts = read.records()
                    ? List.of(Sources.records(read.files().getFirst()))
                    : sources.parts(job, read.files(), scratch.path());
            OpenedSource source = sources.look(job, parts, scratch.path());
            run.columns = source.sample().columns();
            List<Problem> warnings = new ArrayList<>(read.warnings());
            warnings.addAll(lastTimes.columns(run, job));
            run.warnings = ProblemViews.of(warnings);
            Map<String, List<SourcePart>> lookups = target(run, job, parameters, open, source, problems);
            warnings.addAll(lastTimes.values(run, job));
            run.warnings = ProblemViews.of(warnings);
            run.putBack = givesBack ? "wanted" : "none";
            noted(run, epoch, source.parts(), lookups);
        }
        return Optional.empty();
    }

    /** Nothing to read is no failure. */
    private static String nothingNew(int left) {
        return switch (left) {
            case 0 -> "No file is there.";
            case 1 -> "Nothing new: the one file there was loaded before.";
            default -> "Nothing new: the " + left + " files there were loaded before.";
        };
    }

    private void noted(RunEntity run, long epoch, List<SourcePart> parts, Map<String, List<SourcePart>> lookups) {
        transactions.executeWithoutResult(status -> {
            fence.hold(run.id, epoch);
            input.save(run.id, parts, lookups);
            facts.gathered(run);
            log.add(
                    run.id,
                    "Reads " + parts.stream().map(part -> part.file().name()).collect(Collectors.joining(", ")) + ".");
        });
    }

    /** Notes what the run writes to; the result is the files in which it looks records up. */
    private Map<String, List<SourcePart>> target(
            RunEntity run,
            JobDefinition job,
            Map<String, @Nullable Object> parameters,
            OpenedSystems open,
            OpenedSource source,
            List<Problem> problems) {
        Circumstances circumstances = new Circumstances(
                new Pins(run.pins),
                new Pins(run.pins),
                parameters,
                JobPreparation.facts(run.id, run.startedBy, run.createdAt),
                Map.of(),
                run.choice());
        try (PreparedJob prepared =
                preparation.prepare(job, circumstances.over(open), run.columns, RunGathering::notYet, problems)) {
            prepared.sound().ifPresent(sound -> sources.checkLacks(source, sound, problems));
            CannotGoOn.overErrorsAmong(problems);
            Plan plan = prepared.plan();
            IdFields ids = IdFields.of(plan);
            run.plannedFirst = run.runMode() == RunMode.WRITE && plan.isPlannedFirst();
            requireReviewable(run, ids);
            requireFirstAlone(run);
            PlannedWrite main = plan.main();
            run.fields = main.fieldNames();
            run.keyFields = main.keyNames();
            run.grouping = plan.grouping();
            run.writeName = main.name();
            run.targetConnection = JobDefinition.fill(main.connection(), parameters);
            run.targetRecords = main.target().name();
            run.targetDescription = Descriptions.relevant(plan);
            run.sensitiveColumns = SensitiveColumns.of(plan);
            run.traits = ColumnTraits.of(plan.columns(), source.sample().rows());
            run.writes = writes(plan, ids, parameters);
            return prepared.systems().kept();
        }
    }

    private static List<Json.RunWrite> writes(Plan plan, IdFields ids, Map<String, @Nullable Object> parameters) {
        Stream<Json.RunWrite> writes = plan.writes().stream()
                .map(write -> new Json.RunWrite(
                        write.name(),
                        JobDefinition.fill(write.connection(), parameters),
                        write.target().name(),
                        write.fieldNames(),
                        write.keyNames(),
                        write == plan.main(),
                        write.sensitiveFields(),
                        ids.fields().get(plan.writes().indexOf(write))));
        Stream<Json.RunWrite> removals = plan.replacing().stream()
                .map(write -> removal(
                        write, write.removal().orElseThrow(), JobDefinition.fill(write.connection(), parameters)));
        return Stream.concat(writes, removals).toList();
    }

    private static Json.RunWrite removal(PlannedWrite write, Removal removal, String connection) {
        return new Json.RunWrite(
                Removal.name(write.name()),
                connection,
                write.target().name(),
                removal.fieldNames(),
                removal.key(),
                false,
                removal.sensitiveFields(),
                List.of(),
                true);
    }

    /** What is computed from an id that only a write gives can't be reviewed. */
    private static void requireReviewable(RunEntity run, IdFields ids) {
        if (run.isPlannedFirst() && !ids.computed().isEmpty()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.HOLD_UNFIT,
                    String.join(", ", ids.computed())
                            + " is computed from the id of a new record, which is known only when"
                            + " that is written; so what is planned can't be held for review.",
                    run.plannedFirst
                            ? "Take the id as it is: a job that removes records, limits what it changes, or may change"
                                    + " sensitive values plans first."
                            : "Start a dry run, then the run itself; or take the id as it is."));
        }
    }

    private static void requireFirstAlone(RunEntity run) {
        if (run.plannedFirst && run.firstRows != null) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.HOLD_UNFIT,
                    "The job removes records, limits what it changes, or may change sensitive values, so all of it is"
                            + " planned before anything is written; its first rows can't be written alone.",
                    "Start it with --hold and look at what is planned."));
        }
    }

    private static SourceReader notYet() {
        throw new IllegalStateException("rows are read when all is gathered");
    }
}

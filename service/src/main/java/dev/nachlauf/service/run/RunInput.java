package dev.nachlauf.service.run;

import dev.nachlauf.api.FileView;
import dev.nachlauf.api.RunView.RunFile;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobDefinition.From;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.source.SpooledRecords;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.job.JobRecords;
import dev.nachlauf.service.job.JobSources;
import dev.nachlauf.service.job.JobSystems;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.source.Sources.KeptRecords;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What a run reads: fetched at its beginning, kept with it, and marked as taken when it has finished. */
@Component
class RunInput {
    /** The format of a file that the run was started with and that nobody has looked at yet. */
    private static final String GIVEN = "";

    private final RunSourceRepository runSources;
    private final TakenFileRepository taken;
    private final JobSources sources;
    private final FileStore files;
    private final JobWatermarkRepository watermarks;
    private final Clock clock;

    RunInput(
            RunSourceRepository runSources,
            TakenFileRepository taken,
            JobSources sources,
            FileStore files,
            JobWatermarkRepository watermarks,
            Clock clock) {
        this.runSources = runSources;
        this.taken = taken;
        this.sources = sources;
        this.files = files;
        this.watermarks = watermarks;
        this.clock = clock;
    }

    /**
     * Kept files for a run.
     *
     * @param records whether they hold records of a system
     * @param left how many files were left out because they were loaded before
     * @param watermark how far records were read that change; null where none were
     * @param readAfter the watermark behind which they were read; null where all were
     */
    record Input(
            List<FileView> files,
            boolean records,
            int left,
            List<Problem> warnings,
            @Nullable String watermark,
            @Nullable String readAfter) {
        Input(List<FileView> files, boolean records, int left, List<Problem> warnings) {
            this(files, records, left, warnings, null, null);
        }

        /** What is read, for people. */
        String name() {
            return files.size() == 1 ? files.getFirst().name() : files.size() + " files";
        }
    }

    /** The uploaded file, or what the job reads, copied into the store. */
    Input fetch(RunEntity run, JobDefinition job, Map<String, @Nullable Object> parameters) {
        if (run.resubmits != null) {
            return again(run.resubmits);
        }
        Optional<FileView> given = given(run.id);
        if (given.isPresent()) {
            return new Input(List.of(given.get()), false, 0, loadedBefore(run, given.get()));
        }
        return fetchNew(run, job, parameters);
    }

    /** Whether somebody has given the file that the run is to read; to be asked before it is fetched. */
    boolean isGiven(long run) {
        return given(run).isPresent();
    }

    private Optional<FileView> given(long run) {
        return runSources.ofRun(run).stream()
                .filter(source -> source.format.equals(GIVEN))
                .map(RunInput::file)
                .findFirst();
    }

    /** What another run has read, as it is kept with it. */
    private Input again(long other) {
        List<SourcePart> parts = parts(other);
        List<FileView> files = parts.stream().map(SourcePart::file).distinct().toList();
        return new Input(files, parts.getFirst().format().equals(SpooledRecords.NAME), 0, List.of());
    }

    private Input fetchNew(RunEntity run, JobDefinition job, Map<String, @Nullable Object> parameters) {
        List<Problem> problems = new ArrayList<>();
        if (!(job.read().from() instanceof From.File from)) {
            return records(run, job, parameters, problems);
        }
        String wanted = JobDefinition.fill(from.text().value(), parameters);
        List<FileView> found = sources.fetch(job, parameters, problems).orElseThrow(() -> new CannotGoOn(problems));
        boolean pattern = wanted.contains("*") || wanted.contains("?");
        if (found.isEmpty() && !pattern) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_MISSING,
                    "No file " + wanted + " is in " + job.read().connection().value() + ".",
                    "Put it there, correct file in the job, or give one with --file."));
        }
        List<FileView> fresh = job.read().again()
                ? found
                : found.stream()
                        .filter(file -> !taken.existsById(taken(run, file.hash())))
                        .toList();
        return new Input(fresh, false, found.size() - fresh.size(), List.of());
    }

    /** Who names keys wants all their records, and leaves the others for later: the watermark plays no part. */
    private Input records(
            RunEntity run, JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems) {
        boolean chosen = !JobRecords.chosenKeys(job, parameters).isEmpty();
        String readAfter = chosen || job.read().changedSince().isEmpty()
                ? null
                : watermarks
                        .findById(new JobWatermark.Id(run.jobId, run.environment))
                        .map(mark -> mark.value)
                        .orElse(null);
        KeptRecords kept = sources.keepRecords(job, parameters, moment(readAfter), problems)
                .orElseThrow(() -> new CannotGoOn(problems));
        return new Input(List.of(kept.file()), true, 0, List.of(), chosen ? null : kept.greatest(), readAfter);
    }

    /** A watermark is a timestamp, a date or a number, whichever its text reads as. */
    private static @Nullable Object moment(@Nullable String text) {
        if (text == null) {
            return null;
        }
        for (Kind kind : List.of(Kind.TIMESTAMP, Kind.DATE, Kind.INTEGER, Kind.DECIMAL)) {
            try {
                return TextParser.of(kind, null, null).parse(text);
            } catch (ValueProblem e) {
                // the next kind may fit
            }
        }
        return text;
    }

    /**
     * Moves the job's watermark; only finished runs do, in the transaction in which they end. It never goes back: of two
     * runs that overlapped, the one that read further has the last word, whichever ends last.
     */
    void moveWatermark(RunEntity run) {
        if (run.watermark == null) {
            return;
        }
        watermarks.begin(run.jobId, run.environment, run.watermark, run.id, clock.instant());
        JobWatermark mark = watermarks.locked(new JobWatermark.Id(run.jobId, run.environment));
        Object before = Objects.requireNonNull(moment(mark.value));
        Object now = Objects.requireNonNull(moment(run.watermark));
        // values of another kind can't be compared: the field that is watched was changed, and the job begins anew
        boolean further = before.getClass() != now.getClass() || Values.compare(now, before) > 0;
        if (further) {
            mark.value = run.watermark;
            mark.runId = run.id;
            mark.movedAt = clock.instant();
        }
    }

    private static TakenFile.Id taken(RunEntity run, String hash) {
        return new TakenFile.Id(run.jobId, run.environment, hash);
    }

    private List<Problem> loadedBefore(RunEntity run, FileView file) {
        return taken.findById(taken(run, file.hash())).stream()
                .map(before -> Problem.at(
                        Place.NOWHERE,
                        ProblemCode.FILE_LOADED_BEFORE,
                        "The content of " + file.name() + " was loaded before, by run " + before.runId + ".",
                        "That is no fault: records that are already so are left alone."))
                .toList();
    }

    /** Keeps with a run the file that it was started with. */
    void saveGiven(long run, FileView file) {
        save(run, List.of(new SourcePart(file, file.name(), GIVEN, Map.of())), Map.of());
    }

    /** Keeps with a run what it reads instead of what was kept with it until now, and the files in which it looks records up. */
    void save(long run, List<SourcePart> parts, Map<String, List<SourcePart>> lookups) {
        List<RunSource> saved = new ArrayList<>();
        parts.forEach(part -> saved.add(source(part, null)));
        lookups.forEach((lookup, files) -> files.forEach(part -> saved.add(source(part, lookup))));
        runSources.deleteOfRun(run);
        for (short position = 0; position < saved.size(); position++) {
            saved.get(position).id = new RunSource.Id(run, position);
            runSources.save(saved.get(position));
        }
    }

    private static RunSource source(SourcePart part, @Nullable String lookup) {
        RunSource source = new RunSource();
        source.hash = part.file().hash();
        source.name = part.file().name();
        source.size = part.file().size();
        source.member = part.member();
        source.format = part.format();
        source.options = part.options();
        source.lookup = lookup;
        return source;
    }

    /** What a run reads. */
    List<SourcePart> parts(long run) {
        return runSources.ofRun(run).stream()
                .filter(source -> source.lookup == null)
                .map(RunInput::part)
                .toList();
    }

    /** The files in which a run looks records up, by the lookup's name for them. */
    Map<String, List<SourcePart>> lookups(long run) {
        return runSources.ofRun(run).stream()
                .filter(source -> source.lookup != null)
                .collect(Collectors.groupingBy(
                        source -> Objects.requireNonNull(source.lookup),
                        Collectors.mapping(RunInput::part, Collectors.toList())));
    }

    private static SourcePart part(RunSource source) {
        return new SourcePart(file(source), source.member, source.format, source.options);
    }

    private static FileView file(RunSource source) {
        return new FileView(source.hash, source.name, source.size);
    }

    /** The files that a run reads; those to which it adds are none of them. */
    List<RunFile> views(long run) {
        return runSources.ofRun(run).stream()
                .filter(source -> source.lookup == null || !JobSystems.isAddedTo(source.lookup))
                .map(source -> new RunFile(
                        source.name,
                        source.member,
                        source.hash,
                        source.size,
                        source.format,
                        source.options,
                        source.lookup != null))
                .toList();
    }

    /** Marks what a finished run has loaded. Records of a system are read anew every time. */
    void markTaken(RunEntity run) {
        parts(run.id).stream()
                .filter(part -> !part.format().equals(SpooledRecords.NAME))
                .map(part -> part.file().hash())
                .distinct()
                .forEach(hash -> taken.mark(run.jobId, run.environment, hash, run.id, clock.instant()));
    }

    /**
     * Makes sure that what a run reads is still what it was started with.
     *
     * @throws CannotGoOn where a kept file is gone or was damaged
     */
    void verify(long run) {
        runSources.ofRun(run).stream().map(source -> source.hash).distinct().forEach(files::verify);
    }
}

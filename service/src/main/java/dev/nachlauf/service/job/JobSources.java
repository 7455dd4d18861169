package dev.nachlauf.service.job;

import dev.nachlauf.api.FileView;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobDefinition.From;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.source.CursorReader;
import dev.nachlauf.core.source.JoinedReader;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.source.TrailerReader;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.SourceFormat.Lack;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.look.RowWatch;
import dev.nachlauf.service.source.OpenedSource;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.source.Sources;
import dev.nachlauf.service.source.Sources.KeptRecords;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** What jobs read: fetched into the store, looked at, opened. */
@Service
public class JobSources {
    private final Connections connections;
    private final Sources sources;

    JobSources(Connections connections, Sources sources) {
        this.connections = connections;
        this.sources = sources;
    }

    /** The place that the job reads from; empty where it can't be used, which is among the problems. */
    private Optional<HoldsFiles> place(
            JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems) {
        return opened(job.read().connection(), parameters, HoldsFiles.class, "holds no files", problems);
    }

    private <T extends OpenSystem> Optional<T> opened(
            Placed<String> name,
            Map<String, @Nullable Object> parameters,
            Class<T> ability,
            String lack,
            List<Problem> problems) {
        String filled = JobDefinition.fill(name.value(), parameters);
        Optional<OpenSystem> system = connections.open(filled);
        if (system.isEmpty()) {
            problems.add(Problem.at(
                    name.place(),
                    ProblemCode.CONNECTION_UNKNOWN,
                    "There is no connection " + filled + ".",
                    NearestNames.suggestion(filled, connections.names(), "Save it first.")));
            return Optional.empty();
        }
        if (!ability.isInstance(system.get())) {
            system.get().close();
            problems.add(Problem.at(
                    name.place(), ProblemCode.CONNECTION_UNFIT, "The connection " + filled + " " + lack + ".", ""));
            return Optional.empty();
        }
        return system.map(ability::cast);
    }

    /** The job's files, copied into the store, by name; empty where the place can't be used, which is said. */
    public Optional<List<FileView>> fetch(
            JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems) {
        return place(job, parameters, problems).map(place -> {
            try (place) {
                String name = JobDefinition.fill(job.read().connection().value(), parameters);
                return sources.fetch(
                        name, place, JobDefinition.fill(job.read().from().text().value(), parameters));
            }
        });
    }

    /**
     * The job's records, kept as they are now; empty where they can't be read, which is said.
     *
     * @param from the watermark: only records from it on are read; null for all
     */
    public Optional<KeptRecords> keepRecords(
            JobDefinition job,
            Map<String, @Nullable Object> parameters,
            @Nullable Object from,
            List<Problem> problems) {
        return records(job, parameters, problems).map(system -> {
            try (system) {
                return sources.keep(
                        JobRecords.name(job, parameters),
                        system,
                        JobRecords.query(job, parameters, from),
                        job.read()
                                .changedSince()
                                .map(changed -> changed.field().value())
                                .orElse(null));
            }
        });
    }

    private Optional<ReadsRecords> records(
            JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems) {
        return opened(job.read().connection(), parameters, ReadsRecords.class, "holds no records to read", problems);
    }

    private static boolean readsFiles(JobDefinition job) {
        return job.read().from() instanceof From.File || job.read().from() instanceof From.Upload;
    }

    /**
     * Refuses to go on without a file where a job reads one that is given to each run.
     *
     * @throws CannotGoOn where it is such a job
     */
    public void requireGiven(JobDefinition job) {
        if (job.read().from() instanceof From.Upload upload) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_MISSING,
                    "The job reads a file that is given to each run ("
                            + upload.text().value() + ").",
                    "Give it with --file."));
        }
    }

    /** What the job reads, for people: the name or pattern of its files, or where its records are. */
    public String wanted(JobDefinition job, Map<String, @Nullable Object> parameters) {
        return readsFiles(job)
                ? JobDefinition.fill(job.read().from().text().value(), parameters)
                : JobRecords.name(job, parameters);
    }

    /** Settles how kept files are read. */
    public List<SourcePart> parts(JobDefinition job, List<FileView> kept, Path scratch) {
        Optional<String> as = job.read().format().as().map(Placed::value);
        return sources.parts(kept, as, FormatCheck.options(job.read().format()), scratch);
    }

    /** Looks at what is to be read. */
    public OpenedSource look(JobDefinition job, List<SourcePart> parts, Path scratch) {
        return sources.look(parts, declared(job), scratch);
    }

    /** Opens parts as one source; where the job names a closing line, its figures are watched. */
    public SourceReader reader(JobDefinition job, List<SourcePart> parts, List<SourceColumn> columns, Path scratch) {
        List<SourceField> fields = columns.stream().map(SourceColumn::field).toList();
        List<Supplier<SourceReader>> readers = new ArrayList<>();
        for (SourcePart part : parts) {
            readers.add(() -> {
                SourceReader reader = sources.open(part, declared(job), scratch);
                return job.read()
                        .trailer()
                        .<SourceReader>map(trailer ->
                                new TrailerReader(reader, declared(job, columns), trailer.count(), trailer.totals()))
                        .orElse(reader);
            });
        }
        return new JoinedReader(fields, readers);
    }

    private static List<SourceColumn> declared(JobDefinition job, List<SourceColumn> columns) {
        Map<String, Reading> declared = new LinkedHashMap<>();
        job.read().fields().forEach(field -> declared.put(field.name().value(), field.reading()));
        return columns.stream()
                .map(column -> new SourceColumn(
                        column.field(), declared.getOrDefault(column.name(), column.reading()), column.question()))
                .toList();
    }

    /** Adds what is wrong with the format and its options. */
    public void checkFormat(JobDefinition job, List<Problem> problems) {
        FormatCheck.check(sources, job.read().format(), problems);
    }

    /** Adds a problem for each part of a source that lacks a column which a plan reads. */
    public void checkLacks(OpenedSource source, Plan plan, List<Problem> problems) {
        List<String> read = plan.inputs().stream().map(Plan.Input::name).toList();
        for (Lack lack : source.lacks()) {
            List<String> missing = lack.fields().stream().filter(read::contains).toList();
            if (!missing.isEmpty()) {
                problems.add(Problem.of(
                        ProblemCode.FILE_HEADER,
                        "The job reads " + String.join(", ", missing) + ", which " + lack.part()
                                + " lacks: its rows would clear what the records hold.",
                        "Add the column there, or leave that part out."));
            }
        }
    }

    private static List<String> declared(JobDefinition job) {
        return job.read().fields().stream().map(field -> field.name().value()).toList();
    }

    /**
     * The source of a job, as far as one file of it, or its first records, tell.
     *
     * @param file the file that was looked at; null where records were
     * @param open opens it at its start
     */
    public record FirstLook(
            String name, @Nullable FileView file, List<SourceColumn> columns, Supplier<SourceReader> open) {
        /** What was looked at, for people. */
        String seen() {
            return "source " + name + " (" + columns.size() + " fields)";
        }
    }

    /**
     * Looks at what a job reads; empty where there is nothing to see, which is said.
     *
     * @param given the file that is read instead of what the job names; null for that
     * @param scratch to be kept while the source is open
     */
    public Optional<FirstLook> firstLook(
            JobDefinition job,
            Map<String, @Nullable Object> parameters,
            @Nullable FileView given,
            Path scratch,
            List<Problem> problems) {
        if (given == null && job.read().from() instanceof From.Upload upload) {
            problems.add(Problem.at(
                    upload.text().place(),
                    ProblemCode.SOURCE_UNSEEN,
                    "The file is given to each run, so the names of its fields can't be checked now.",
                    "They are checked when a run starts."));
            return Optional.empty();
        }
        if (given == null && !readsFiles(job)) {
            return firstRecords(job, parameters, problems);
        }
        boolean unknown = job.read()
                .format()
                .as()
                .map(as -> !sources.formats().contains(as.value()))
                .orElse(false);
        Optional<FileView> first =
                unknown ? Optional.empty() : given == null ? firstFile(job, parameters, problems) : Optional.of(given);
        return first.map(file -> {
            OpenedSource source = look(job, parts(job, List.of(file), scratch), scratch);
            List<SourceColumn> columns = source.sample().columns();
            return new FirstLook(file.name(), file, columns, () -> reader(job, source.parts(), columns, scratch));
        });
    }

    private Optional<FileView> firstFile(
            JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems) {
        Optional<List<FileView>> files = fetch(job, parameters, problems);
        Placed<String> named = job.read().from().text();
        if (files.isPresent() && files.get().isEmpty()) {
            problems.add(Problem.at(
                    named.place(),
                    ProblemCode.SOURCE_UNSEEN,
                    "No file matches " + named.value() + " now, so the names of its fields can't be checked.",
                    "They are checked when a run starts."));
        }
        return files.flatMap(found -> found.stream().findFirst());
    }

    private Optional<FirstLook> firstRecords(
            JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems) {
        Optional<ReadsRecords> first = records(job, parameters, problems);
        if (first.isEmpty()) {
            return Optional.empty();
        }
        first.get().close();
        Supplier<SourceReader> open = () -> {
            List<Problem> found = new ArrayList<>();
            ReadsRecords system = records(job, parameters, found).orElseThrow(() -> new CannotGoOn(found));
            return RowWatch.over(CursorReader.over(
                    JobRecords.name(job, parameters), system, JobRecords.query(job, parameters, null)));
        };
        try (SourceReader reader = open.get()) {
            List<SourceColumn> columns = Sample.take(reader).columns();
            return Optional.of(new FirstLook(JobRecords.name(job, parameters), null, columns, open));
        }
    }
}

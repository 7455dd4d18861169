package dev.nachlauf.service.job;

import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Connectors;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.HoldsFiles.FoundFile;
import dev.nachlauf.core.system.HoldsRecords.RecordType;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.SourceFormat;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.service.connection.Connections;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Brings a job together with the systems it names. */
@Service
public class JobPlanning {
    private final Connections connections;
    private final Connectors connectors;

    JobPlanning(Connections connections, Connectors connectors) {
        this.connections = connections;
        this.connectors = connectors;
    }

    /** The place that the job reads from; empty where it can't be used, which is among the problems. */
    public Optional<HoldsFiles> place(
            JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems) {
        return opened(job.read().connection(), parameters, HoldsFiles.class, "holds no files", problems);
    }

    /** The system that the job writes to; empty where it can't be used, which is among the problems. */
    public Optional<Writes> target(
            JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems) {
        return opened(job.write().connection(), parameters, Writes.class, "can't be written to", problems);
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

    /** What the target demands; empty where there is no such record type, which is among the problems. */
    public Optional<RecordDescription> describe(
            JobDefinition job, Map<String, @Nullable Object> parameters, Writes system, List<Problem> problems) {
        String records = JobDefinition.fill(job.write().records().value(), parameters);
        Optional<RecordDescription> description = system.describe(records);
        if (description.isEmpty()) {
            List<String> known =
                    system.recordTypes().stream().map(RecordType::name).toList();
            problems.add(Problem.at(
                    job.write().records().place(),
                    ProblemCode.RECORDS_UNKNOWN,
                    "The connection " + job.write().connection().value() + " has no record type " + records + ".",
                    NearestNames.suggestion(records, known, "It has: " + String.join(", ", known) + ".")));
        } else if (!description.get().writable()) {
            problems.add(Problem.at(
                    job.write().records().place(),
                    ProblemCode.RECORDS_READ_ONLY,
                    "The account may not write " + records + ".",
                    "Ask for the rights to insert and update."));
        }
        return description;
    }

    /** The files that the job would read, by name. */
    public List<FoundFile> files(JobDefinition job, Map<String, @Nullable Object> parameters, HoldsFiles place) {
        return place.find(JobDefinition.fill(job.read().file().value(), parameters));
    }

    /** The format's reader over a file's bytes. */
    public SourceReader reader(JobDefinition job, String file, java.io.InputStream bytes) {
        Map<String, String> options = new LinkedHashMap<>();
        job.read().format().options().forEach((name, option) -> options.put(name, option.value()));
        return reader(job, file, bytes, options);
    }

    /** The format's reader with options that were detected before. */
    public SourceReader reader(JobDefinition job, String file, java.io.InputStream bytes, Map<String, String> options) {
        return format(job).orElseThrow().read(file, bytes, options);
    }

    private Optional<SourceFormat> format(JobDefinition job) {
        return connectors.format(job.read().format().as().value());
    }

    /** Adds what is wrong with the format and its options. */
    public void checkFormat(JobDefinition job, List<Problem> problems) {
        Optional<SourceFormat> format = format(job);
        if (format.isEmpty()) {
            Placed<String> as = job.read().format().as();
            List<String> known = connectors.formats().stream()
                    .map(SourceFormat::name)
                    .sorted()
                    .toList();
            problems.add(Problem.at(
                    as.place(),
                    ProblemCode.VALUE_WRONG_KIND,
                    "There is no format " + as.value() + ".",
                    NearestNames.suggestion(as.value(), known, "Formats: " + String.join(", ", known) + ".")));
            return;
        }
        List<String> known = format.get().options().stream().map(Setting::name).toList();
        job.read().format().options().forEach((name, option) -> {
            if (!known.contains(name)) {
                problems.add(Problem.at(
                        option.place(),
                        ProblemCode.KEY_UNKNOWN,
                        "The format " + format.get().name() + " has no option " + name + ".",
                        NearestNames.suggestion(name, known, "Options: " + String.join(", ", known) + ".")));
            }
        });
    }

    /** The plan for a header; empty where there are errors. */
    public Optional<Plan> plan(
            JobDefinition job,
            Map<String, @Nullable Object> parameters,
            List<String> header,
            RecordDescription target,
            List<Problem> problems) {
        return Planner.plan(job, parameters, header, target, problems);
    }

    /**
     * Checks everything that can be looked at now.
     *
     * @param seen what was looked at, for people; added to
     */
    void check(JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems, List<String> seen) {
        checkFormat(job, problems);
        Optional<RecordDescription> target = look(problems, () -> {
            Optional<Writes> system = target(job, parameters, problems);
            if (system.isEmpty()) {
                return null;
            }
            try (Writes open = system.get()) {
                return describe(job, parameters, open, problems).orElse(null);
            }
        });
        target.ifPresent(
                description -> seen.add("target " + job.write().connection().value() + " " + description.name() + " ("
                        + description.fields().size() + " fields)"));
        Optional<List<String>> header = look(problems, () -> header(job, parameters, problems, seen));
        if (target.isPresent()) {
            List<Problem> planned = new ArrayList<>();
            plan(job, parameters, header.orElse(declared(job)), target.get(), planned);
            boolean unseen = header.isEmpty();
            planned.removeIf(problem -> unseen && problem.code() == ProblemCode.FIELD_UNKNOWN);
            problems.addAll(planned);
        }
    }

    private static List<String> declared(JobDefinition job) {
        return job.read().fields().stream().map(field -> field.name().value()).toList();
    }

    private @Nullable List<String> header(
            JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems, List<String> seen) {
        Optional<HoldsFiles> place = place(job, parameters, problems);
        if (place.isEmpty() || format(job).isEmpty()) {
            return null;
        }
        try (HoldsFiles open = place.get()) {
            List<FoundFile> files = files(job, parameters, open);
            if (files.isEmpty()) {
                problems.add(Problem.at(
                        job.read().file().place(),
                        ProblemCode.SOURCE_UNSEEN,
                        "No file matches " + job.read().file().value()
                                + " now, so the names of its fields can't be checked.",
                        "They are checked when a run starts."));
                return null;
            }
            FoundFile first = files.getFirst();
            try (SourceReader reader = reader(job, first.name(), open.open(first))) {
                seen.add("source " + first.name() + " (" + reader.header().size() + " fields)");
                return reader.header();
            }
        }
    }

    /** What looks at a system; null where there is nothing to see, which was said already. */
    private interface Look<T> {
        @Nullable
        T now();
    }

    private static <T> Optional<T> look(List<Problem> problems, Look<T> look) {
        try {
            return Optional.ofNullable(look.now());
        } catch (CannotGoOn e) {
            problems.addAll(e.problems());
            return Optional.empty();
        }
    }
}

package dev.nachlauf.service.job;

import dev.nachlauf.core.issue.IssueSystem;
import dev.nachlauf.core.job.Issue;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.Occasion;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.Step.Among;
import dev.nachlauf.core.job.Tell;
import dev.nachlauf.core.plan.Described;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.step.Found;
import dev.nachlauf.core.step.RecordFinder;
import dev.nachlauf.core.system.HoldsFiles;
import dev.nachlauf.core.system.HoldsRecords;
import dev.nachlauf.core.system.LooksUp;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.TakesFiles;
import dev.nachlauf.core.system.TellsPeople;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.connection.OpenedSystems;
import dev.nachlauf.service.source.SourcePart;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The systems that a job names: for looking at record types, and for finding records. */
public final class JobSystems implements Described, RecordFinder, AutoCloseable {
    private final Connections connections;
    private final OpenedSystems open;
    private final boolean lent;
    private final Map<String, @Nullable Object> parameters;
    private final Set<String> targets = new LinkedHashSet<>();

    private final LookupFiles files;
    private final StandingFiles standing;
    private final IssuedFormats formats;
    private final Map<String, IssueSystem> issuing = new HashMap<>();

    /**
     * The systems of one job.
     *
     * @param others what somebody else opens and closes; empty where these open and close their own
     */
    JobSystems(
            Connections connections,
            Optional<OpenedSystems> others,
            Map<String, @Nullable Object> parameters,
            LookupFiles files,
            StandingFiles standing,
            IssuedFormats formats) {
        this.standing = standing;
        this.formats = formats;
        this.connections = connections;
        this.open = others.orElseGet(() -> new OpenedSystems(connections));
        this.lent = others.isPresent();
        this.parameters = parameters;
        this.files = files;
    }

    @Override
    public Optional<RecordDescription> of(
            Placed<String> connection, Placed<String> records, boolean written, List<Problem> problems) {
        try {
            Optional<? extends HoldsRecords> system = written
                    ? fitting(connection, Writes.class, "can't be written to", problems)
                    : fitting(connection, LooksUp.class, "can't find records by key", problems);
            Optional<RecordDescription> description =
                    system.flatMap(found -> new RecordTypes(connections, open, parameters, problems)
                            .described(found, connection, records, written));
            if (written) {
                description.ifPresent(target -> targets.add("target " + connection.value() + " " + target.name() + " ("
                        + target.fields().size() + " fields)"));
            }
            return description;
        } catch (CannotGoOn e) {
            problems.addAll(e.problems());
            return Optional.empty();
        }
    }

    @Override
    public Optional<IssuedFile> issued(
            Placed<String> connection, Placed<String> file, Issue issue, List<Problem> problems) {
        try {
            String name = JobDefinition.fill(file.value(), parameters);
            Optional<TakesFiles> place = fitting(connection, TakesFiles.class, "takes no files", problems);
            if (place.isEmpty()) {
                return Optional.empty();
            }
            Optional<IssuedFile> issued =
                    formats.demanded(issue, file, name, problems).map(demanded -> new IssuedFile(name, demanded));
            if (issue.adds()) {
                return issued.map(anew -> added(connection, issue, place.get(), anew));
            }
            targets.add("file " + connection.value() + " " + name + " (handed over: it can't be taken back)");
            return issued;
        } catch (CannotGoOn e) {
            problems.addAll(e.problems());
            return Optional.empty();
        }
    }

    /** A file that keeps its rows, where one is there. */
    private IssuedFile added(Placed<String> connection, Issue issue, TakesFiles place, IssuedFile anew) {
        String file = anew.name();
        Optional<StandingFiles.Standing> there = standing.look(
                JobDefinition.fill(connection.value(), parameters),
                file,
                formats.name(issue, file),
                formats.reading(issue, file),
                place);
        String found = there.map(known -> known.columns().size() + " columns").orElse("not there yet");
        targets.add("file " + connection.value() + " " + file + " (" + found + ")");
        return there.map(known -> new IssuedFile(
                        file,
                        formats.demanded(issue, file, known.part()).andThen(known::closedIfFixed)::apply,
                        Optional.of(known.columns())))
                .orElse(anew);
    }

    /** Notes what the job writes to files that keep their rows. */
    void planned(Plan plan) {
        plan.writes().stream()
                .filter(write -> write.issue().filter(Issue::adds).isPresent())
                .forEach(
                        write -> standing.describe(JobDefinition.fill(write.connection(), parameters), write.target()));
    }

    /** What stands under the name of a written file, as the run has found it. */
    public IssueSystem.Standing standing(String connection) {
        return standing.of(JobDefinition.fill(connection, parameters));
    }

    /** The content of a file to which the job adds, as it was found; empty where none was there. */
    public Optional<String> standingHash(String connection, String file) {
        return standing.hash(JobDefinition.fill(connection, parameters), file);
    }

    /** Says what speaks against telling people as a job wants to. */
    void checkTell(Tell tell, List<Problem> problems) {
        try {
            List<String> to = tell.to().stream().map(Placed::value).toList();
            Optional<TellsPeople> receiver = fitting(tell.by(), TellsPeople.class, "tells nobody", problems);
            Optional<String> unfit = receiver.flatMap(found -> found.unfit(to));
            unfit.ifPresent(why -> problems.add(Problem.at(
                    (to.isEmpty() ? tell.by() : tell.to().getFirst()).place(),
                    ProblemCode.RECEIVER_UNFIT,
                    why,
                    "Correct to: in the job, or in the connection.")));
            if (receiver.isPresent() && unfit.isEmpty()) {
                String when = tell.when().stream().sorted().map(Occasion::word).collect(Collectors.joining(", "));
                targets.add("told over " + JobDefinition.fill(tell.by().value(), parameters) + ": " + when);
            }
        } catch (CannotGoOn e) {
            problems.addAll(e.problems());
        }
    }

    @Override
    public Optional<RecordDescription> of(Among.File file, List<Problem> problems) {
        try {
            String connection = JobDefinition.fill(file.connection().value(), parameters);
            Optional<HoldsFiles> place = fitting(file.connection(), HoldsFiles.class, "holds no files", problems);
            if (place.isEmpty() || !files.checkFormat(file, problems)) {
                return Optional.empty();
            }
            String name = JobDefinition.fill(file.file().value(), parameters);
            return Optional.of(files.describe(file, connection, name, place.get(), problems));
        } catch (CannotGoOn e) {
            problems.addAll(e.problems());
            return Optional.empty();
        }
    }

    /** The files in which lookups find records, and those that get more rows, each by a name of its own. */
    public Map<String, List<SourcePart>> kept() {
        Map<String, List<SourcePart>> kept = new HashMap<>(files.kept());
        kept.putAll(standing.kept());
        return kept;
    }

    /** Those of {@link #kept} to which the job adds. */
    public Map<String, List<SourcePart>> added() {
        return standing.kept();
    }

    /** Whether one of {@link #kept} is a file to which the job adds. */
    public static boolean isAddedTo(String kept) {
        return StandingFiles.isAddedTo(kept);
    }

    /** Those of {@link #kept} in which something is looked up. */
    public static Map<String, List<SourcePart>> lookedUp(Map<String, List<SourcePart>> kept) {
        return StandingFiles.others(kept);
    }

    /** The targets that were looked at, for people: also those of a job that is not sound. */
    List<String> targets() {
        return List.copyOf(targets);
    }

    private <T> Optional<T> fitting(Placed<String> connection, Class<T> ability, String lack, List<Problem> problems) {
        String name = JobDefinition.fill(connection.value(), parameters);
        Optional<OpenSystem> system = open.of(name);
        if (system.isEmpty()) {
            problems.add(Problem.at(
                    connection.place(),
                    ProblemCode.CONNECTION_UNKNOWN,
                    "There is no connection " + name + ".",
                    NearestNames.suggestion(name, connections.names(), "Save it first.")));
        } else if (!ability.isInstance(system.get())) {
            problems.add(Problem.at(
                    connection.place(), ProblemCode.CONNECTION_UNFIT, "The connection " + name + " " + lack + ".", ""));
        }
        return system.filter(ability::isInstance).map(ability::cast);
    }

    /**
     * The system that a connection of the job leads to, for writing; the same one for the same system.
     *
     * @throws CannotGoOn where there is none any more
     */
    public Writes target(String connection) {
        String name = JobDefinition.fill(connection, parameters);
        if (open.of(name).orElse(null) instanceof TakesFiles) {
            return issuing.computeIfAbsent(name, any -> new IssueSystem(standing.of(name)));
        }
        List<Problem> problems = new ArrayList<>();
        return fitting(new Placed<>(connection, Place.NOWHERE), Writes.class, "can't be written to", problems)
                .orElseThrow(() -> new CannotGoOn(problems));
    }

    /**
     * The place to which a connection of the job leads, for delivering files.
     *
     * @throws CannotGoOn where there is none any more
     */
    public TakesFiles place(String connection) {
        List<Problem> problems = new ArrayList<>();
        return fitting(new Placed<>(connection, Place.NOWHERE), TakesFiles.class, "takes no files", problems)
                .orElseThrow(() -> new CannotGoOn(problems));
    }

    @Override
    public List<Found> find(Finding finding, List<Object[]> keys) {
        if (finding.among() instanceof Among.File file) {
            return files.find(finding, file, keys);
        }
        String name = JobDefinition.fill(finding.connection(), parameters);
        if (!(open.of(name).orElse(null) instanceof LooksUp system)) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.CONNECTION_UNFIT, "The connection " + name + " can't find records by key.", ""));
        }
        return system.lookUp(finding.records(), finding.keyFields(), finding.wanted(), keys).stream()
                .map(match -> new Found(match.count(), match.values()))
                .toList();
    }

    @Override
    public void close() {
        files.close();
        standing.close();
        if (!lent) {
            open.close();
        }
    }
}

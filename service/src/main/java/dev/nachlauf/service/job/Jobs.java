package dev.nachlauf.service.job;

import dev.nachlauf.api.JobCheck;
import dev.nachlauf.api.JobVersionView;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.job.Step;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.service.shared.Pins;
import dev.nachlauf.service.store.NameLock;
import dev.nachlauf.service.web.ProblemViews;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Keeps jobs and checks them. */
@Service
public class Jobs {
    private final JobRepository jobs;
    private final JobVersionRepository versions;
    private final JobPreparation preparation;
    private final JobChecks checks;
    private final JobParameters parameters;
    private final NameLock lock;
    private final TransactionTemplate transactions;
    private final Clock clock;
    /** Versions never change, so neither do their labels. */
    private final Map<String, List<String>> labels = new ConcurrentHashMap<>();

    Jobs(
            JobRepository jobs,
            JobVersionRepository versions,
            JobPreparation preparation,
            JobChecks checks,
            JobParameters parameters,
            NameLock lock,
            TransactionTemplate transactions,
            Clock clock) {
        this.jobs = jobs;
        this.versions = versions;
        this.preparation = preparation;
        this.checks = checks;
        this.parameters = parameters;
        this.lock = lock;
        this.transactions = transactions;
        this.clock = clock;
    }

    /** A job in one version, with its definition where it has no errors in itself. */
    public record Version(
            long jobId,
            String name,
            String notes,
            JobVersionView version,
            List<dev.nachlauf.api.ProblemView> problems) {}

    /** What a version says; throws where it has errors, as a draft may. */
    public JobDefinition definition(Version version, Pins pins) {
        List<Problem> found = new ArrayList<>();
        return read(new SourceText(version.name(), version.version().document()), pins, found)
                .orElseThrow(() -> new CannotGoOn(found));
    }

    /** What a document says; empty where it is malformed, which is said. */
    Optional<JobDefinition> read(SourceText source, Pins pins, List<Problem> problems) {
        List<Problem> missing = new ArrayList<>();
        Optional<JobDefinition> job = JobFile.read(source, names -> preparation.pieces(names, pins, missing), problems);
        problems.addAll(missing);
        return missing.isEmpty() ? job : Optional.empty();
    }

    /** How the steps of a version are called; with them the balance is told. */
    public List<String> stepLabels(String name, int number, Map<String, String> pins) {
        return labels.computeIfAbsent(
                name + " " + number + " " + pins,
                key -> definition(version(name, number), new Pins(pins)).steps().stream()
                        .map(Step::label)
                        .toList());
    }

    /** The jobs whose newest version has a text that fits. */
    @Transactional(readOnly = true)
    public List<Version> using(Predicate<Version> uses) {
        return list().stream().filter(uses).toList();
    }

    /** What the check of a saved job finds now. */
    public List<Problem> problems(Version version) {
        return problems(new SourceText(version.name(), version.version().document()), new ArrayList<>(), false);
    }

    /** All jobs by name, each in its newest version. */
    @Transactional(readOnly = true)
    public List<Version> list() {
        Map<Long, JobVersionEntity> newest =
                versions.newest().stream().collect(Collectors.toMap(version -> version.jobId, Function.identity()));
        return jobs.findAllByOrderByName().stream()
                .filter(job -> newest.containsKey(job.id))
                .map(job -> of(job, Objects.requireNonNull(newest.get(job.id))))
                .toList();
    }

    /** The newest version of a job. */
    @Transactional(readOnly = true)
    public Version newest(String name) {
        JobEntity job = entity(name);
        return version(job, job.latest);
    }

    /** A certain version of a job. */
    @Transactional(readOnly = true)
    public Version version(String name, int number) {
        return version(entity(name), number);
    }

    /** All versions of a job, newest first. */
    @Transactional(readOnly = true)
    public List<JobVersionView> history(String name) {
        return versions.findByJobIdOrderByNumberDesc(entity(name).id).stream()
                .map(Jobs::view)
                .toList();
    }

    /** Checks a document against everything that can be looked at now. */
    public JobCheck check(String fileName, String document) {
        List<String> seen = new ArrayList<>();
        List<Problem> problems = problems(new SourceText(fileName, document), seen, true);
        boolean sound = problems.stream().allMatch(problem -> problem.code().isWarning());
        return new JobCheck(sound, ProblemViews.of(problems), seen);
    }

    private List<Problem> problems(SourceText source, List<String> seen, boolean tryRows) {
        List<Problem> problems = new ArrayList<>();
        read(source, Pins.NEWEST, problems)
                .ifPresent(job -> checks.check(job, parameters.values(job, problems), problems, seen, tryRows));
        return problems;
    }

    /**
     * Keeps a document as the newest version; the same text twice is one version. A document with errors is refused,
     * except as a draft, which needs a name at least.
     */
    public Version save(String fileName, String document, boolean draft, String by) {
        return save(checked(fileName, document), draft, null, by);
    }

    /** A job's text and what is wrong with it. */
    record Checked(SourceText source, List<Problem> problems) {
        boolean sound() {
            return problems.stream().allMatch(problem -> problem.code().isWarning());
        }
    }

    /** Checks a document before it is saved; the systems that it names are asked. */
    Checked checked(String fileName, String document) {
        SourceText source = new SourceText(fileName, document);
        return new Checked(source, problems(source, new ArrayList<>(), false));
    }

    /**
     * Keeps a document that was made from a certain version.
     *
     * @param base that version: where another one was saved since, the document is refused; null for whatever is there
     */
    Version save(Checked checked, boolean draft, @Nullable Integer base, String by) {
        if (!checked.sound() && !draft) {
            throw new CannotGoOn(checked.problems());
        }
        String document = checked.source().text();
        Optional<JobDefinition> definition = read(checked.source(), Pins.NEWEST, new ArrayList<>());
        String name = definition.map(JobDefinition::name).orElseGet(() -> draftName(document, checked.problems()));
        return Objects.requireNonNull(transactions.execute(status -> {
            lock.hold("job", name);
            requireNewest(name, base);
            return saved(name, checked, draft, definition, by);
        }));
    }

    private void requireNewest(String name, @Nullable Integer base) {
        jobs.findByName(name).filter(job -> base != null && job.latest != base).ifPresent(job -> {
            JobVersionView newest = version(job, job.latest).version();
            throw new CannotGoOn(Problem.of(
                    ProblemCode.VERSION_OVERTAKEN,
                    "Version " + newest.version() + " of " + name + " was saved by " + newest.savedBy()
                            + " since this text was begun with version " + base + ".",
                    "Look at the newest version, and save what you changed on top of it."));
        });
    }

    private Version saved(String name, Checked checked, boolean draft, Optional<JobDefinition> definition, String by) {
        String document = checked.source().text();
        JobEntity job = jobs.findByName(name).orElseGet(() -> {
            JobEntity fresh = new JobEntity();
            fresh.name = name;
            return jobs.save(fresh);
        });
        Optional<JobVersionEntity> same = versions.findByJobIdAndNumber(job.id, job.latest)
                .filter(version -> version.document.equals(document) && version.draft == (draft && !checked.sound()));
        if (same.isEmpty()) {
            JobVersionEntity version = new JobVersionEntity();
            version.jobId = job.id;
            version.number = ++job.latest;
            version.title = definition.map(JobDefinition::title).orElse(name);
            version.notes = definition.map(JobDefinition::notes).orElse("");
            version.document = document;
            version.draft = !checked.sound();
            version.problems = ProblemViews.of(checked.problems());
            version.savedAt = clock.instant();
            version.savedBy = by;
            versions.save(version);
        }
        return version(job, job.latest);
    }

    /** A draft may be broken beyond reading: then its name is taken from the line that states it. */
    private static String draftName(String document, List<Problem> problems) {
        return document.lines()
                .filter(line -> line.matches("job:\\s*[a-z0-9][a-z0-9-]{0,63}\\s*"))
                .map(line -> line.substring("job:".length()).strip())
                .findFirst()
                .orElseThrow(() -> new CannotGoOn(problems));
    }

    private JobEntity entity(String name) {
        return jobs.findByName(name).orElseThrow(() -> {
            List<String> known =
                    jobs.findAllByOrderByName().stream().map(job -> job.name).toList();
            return new CannotGoOn(Problem.of(
                    ProblemCode.NOT_FOUND,
                    "There is no job " + name + ".",
                    NearestNames.suggestion(name, known, "job list shows all.")));
        });
    }

    private Version version(JobEntity job, int number) {
        JobVersionEntity version = versions.findByJobIdAndNumber(job.id, number)
                .orElseThrow(() -> new CannotGoOn(Problem.of(
                        ProblemCode.NOT_FOUND, "The job " + job.name + " has no version " + number + ".", "")));
        return of(job, version);
    }

    private static Version of(JobEntity job, JobVersionEntity version) {
        return new Version(job.id, job.name, version.notes, view(version), version.problems);
    }

    private static JobVersionView view(JobVersionEntity version) {
        return new JobVersionView(
                version.number, version.draft, version.title, version.document, version.savedAt, version.savedBy);
    }
}

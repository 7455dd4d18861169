package dev.nachlauf.service.job;

import dev.nachlauf.api.JobCheck;
import dev.nachlauf.api.JobTrial;
import dev.nachlauf.api.JobVersionView;
import dev.nachlauf.api.JobView;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.PromoteJob;
import dev.nachlauf.api.PromotionView;
import dev.nachlauf.api.RunLine;
import dev.nachlauf.api.StartQuestions;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobDefinition.From;
import dev.nachlauf.core.job.JobSchema;
import dev.nachlauf.service.access.Caller;
import dev.nachlauf.service.access.Deed;
import dev.nachlauf.service.access.Needs;
import dev.nachlauf.service.access.Role;
import dev.nachlauf.service.look.Looks;
import dev.nachlauf.service.shared.Pins;
import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/jobs")
class JobController {
    private static final String YAML = "application/yaml";

    private final Jobs jobs;
    private final JobParameters parameters;
    private final JobTrials trials;
    private final Promotions promotions;
    private final LastRunOfJob lastRuns;
    private final Looks looks;

    JobController(
            Jobs jobs,
            JobParameters parameters,
            JobTrials trials,
            Promotions promotions,
            LastRunOfJob lastRuns,
            Looks looks) {
        this.looks = looks;
        this.jobs = jobs;
        this.parameters = parameters;
        this.trials = trials;
        this.promotions = promotions;
        this.lastRuns = lastRuns;
    }

    /** All jobs by name, each with its last run. */
    @GetMapping
    Page<JobView> list() {
        List<Jobs.Version> all = jobs.list();
        Map<String, RunLine> runs =
                lastRuns.of(all.stream().map(Jobs.Version::name).toList());
        return new Page<>(
                all.stream().map(job -> view(job, runs.get(job.name()))).toList(), null);
    }

    /**
     * Keeps a job's newest version, checked. A draft may have errors; with {@code base} the job is refused where
     * another version was saved since that one.
     */
    @PostMapping(consumes = YAML)
    @Needs(value = Role.BUILD, deed = "save job")
    JobView save(
            @RequestParam(defaultValue = "job.yaml") String file,
            @RequestParam(defaultValue = "false") boolean draft,
            @RequestParam(required = false) @Nullable Integer base,
            @RequestBody String document,
            HttpServletRequest request) {
        Jobs.Checked checked = looks.whole(request, "check of a job to save", () -> jobs.checked(file, document));
        JobView saved = view(jobs.save(checked, draft, base, Caller.of(request)));
        Deed.about(request, saved.name() + " " + saved.version());
        return saved;
    }

    /** Checks a job that need not be saved: its text, its source, its targets, its examples, its first rows. */
    @PostMapping(path = "/check", consumes = YAML)
    @Needs(Role.LOOK)
    JobCheck check(
            @RequestParam(defaultValue = "job.yaml") String file,
            @RequestBody String document,
            HttpServletRequest http) {
        return looks.result(http, "check", null, () -> jobs.check(file, document));
    }

    /** What a job makes of the first rows, field by field. Nothing is written. */
    @PostMapping(path = "/trial", consumes = YAML)
    @Needs(Role.LOOK)
    JobTrial trial(
            @RequestParam(defaultValue = "job.yaml") String file,
            @RequestParam(required = false) @Nullable String source,
            @RequestParam(required = false) @Nullable String sourceName,
            @RequestParam(defaultValue = "5") int rows,
            @RequestBody String document,
            HttpServletRequest http) {
        return looks.result(http, "trial", null, () -> trials.of(file, document, source, sourceName, rows));
    }

    /** The JSON Schema of job files, for editors. */
    @GetMapping(path = "/schema", produces = "application/schema+json")
    String schema() {
        return JobSchema.text();
    }

    /** One job in its newest version. */
    @GetMapping("/{name}")
    JobView show(@PathVariable String name) {
        return view(jobs.newest(name));
    }

    /** All versions of a job, newest first. */
    @GetMapping("/{name}/versions")
    Page<JobVersionView> versions(@PathVariable String name) {
        return new Page<>(jobs.history(name), null);
    }

    /** What a run of a job is to be told when it starts, and what holds where nothing is said. */
    @GetMapping("/{name}/questions")
    StartQuestions questions(@PathVariable String name) {
        JobDefinition job = jobs.definition(promotions.inForce(name), Pins.NEWEST);
        return new StartQuestions(
                parameters.views(job),
                job.read().from() instanceof From.Upload upload ? upload.text().value() : null);
    }

    /** Which versions of a job were promoted to live environments, newest first. */
    @GetMapping("/{name}/promotions")
    Page<PromotionView> promotions(@PathVariable String name) {
        return new Page<>(promotions.of(name), null);
    }

    /** Makes a version of a job the one that runs in a live environment, where the check finds no error there. */
    @PostMapping("/{name}/promote")
    @Needs(value = Role.BUILD, deed = "promote job")
    PromotionView promote(@PathVariable String name, @RequestBody PromoteJob request, HttpServletRequest http) {
        Jobs.Version version = looks.whole(http, "check of a job to promote", () -> promotions.checked(name, request));
        PromotionView promoted = promotions.promote(version, request, Caller.of(http));
        Deed.about(http, name + " " + promoted.version() + " to " + promoted.environment());
        return promoted;
    }

    private JobView view(Jobs.Version job) {
        return view(job, lastRuns.of(List.of(job.name())).get(job.name()));
    }

    private static JobView view(Jobs.Version job, @Nullable RunLine lastRun) {
        JobVersionView version = job.version();
        return new JobView(
                job.name(),
                version.title(),
                job.notes(),
                version.version(),
                version.draft(),
                version.document(),
                version.savedAt(),
                version.savedBy(),
                job.problems(),
                lastRun);
    }
}

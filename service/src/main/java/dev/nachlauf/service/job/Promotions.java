package dev.nachlauf.service.job;

import dev.nachlauf.api.PromoteJob;
import dev.nachlauf.api.PromotionView;
import dev.nachlauf.core.job.EnvironmentDefinition;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.environment.ChosenEnvironment;
import dev.nachlauf.service.environment.Environments;
import java.time.Clock;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Which version of a job runs in a live environment. Elsewhere its newest one does. */
@Service
public class Promotions {
    private final Jobs jobs;
    private final PromotionRepository repository;
    private final Environments environments;
    private final Clock clock;

    Promotions(Jobs jobs, PromotionRepository repository, Environments environments, Clock clock) {
        this.jobs = jobs;
        this.repository = repository;
        this.environments = environments;
        this.clock = clock;
    }

    /** The version of a job that runs where the work on this thread is about. */
    @Transactional(readOnly = true)
    public Jobs.Version inForce(String job) {
        return inForce(job, environments.current());
    }

    /**
     * A version of a job that somebody names for the current environment.
     *
     * @throws CannotGoOn with {@code job-not-promoted} where that is live and another one is promoted to it
     */
    public Jobs.Version chosen(String job, int version) {
        EnvironmentDefinition environment = environments.current();
        Jobs.Version chosen = jobs.version(job, version);
        int inForce = environment.live() ? inForce(job, environment).version().version() : version;
        if (inForce != version) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.JOB_NOT_PROMOTED,
                    "In " + environment.name() + " version " + inForce + " of " + job + " is promoted, not version "
                            + version + ".",
                    "Promote that one, or leave the version out."));
        }
        return chosen;
    }

    /**
     * The version of a job that runs in an environment.
     *
     * @throws CannotGoOn where it is live and nothing was promoted to it
     */
    private Jobs.Version inForce(String job, EnvironmentDefinition environment) {
        Jobs.Version newest = jobs.newest(job);
        if (!environment.live()) {
            return newest;
        }
        int version = repository
                .findFirstByJobIdAndEnvironmentOrderByIdDesc(newest.jobId(), environment.name())
                .map(promotion -> promotion.version)
                .orElseThrow(() -> new CannotGoOn(Problem.of(
                        ProblemCode.JOB_NOT_PROMOTED,
                        "No version of " + job + " was promoted to " + environment.name()
                                + ", which is live: only what was promoted runs there.",
                        "Try it elsewhere, then: nachlauf job promote " + job + " --to " + environment.name()
                                + " --note …")));
        return jobs.version(job, version);
    }

    /**
     * What is to be promoted, checked against the systems of the environment.
     *
     * @throws CannotGoOn where it can't be, with all that is wrong
     */
    Jobs.Version checked(String job, PromoteJob request) {
        if (request.note().isBlank()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REQUEST_MALFORMED,
                    "The note is missing.",
                    "Say what changes and why, in a few words."));
        }
        EnvironmentDefinition environment = environments.named(request.to());
        if (!environment.live()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REQUEST_MALFORMED,
                    "The environment " + request.to() + " is not live: the newest version of a job runs there.",
                    "Promote to a live one; environment list shows all."));
        }
        Jobs.Version version = request.version() == null ? jobs.newest(job) : jobs.version(job, request.version());
        if (version.version().draft()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.JOB_DRAFT,
                    "Version " + version.version().version() + " of " + job + " is a draft with errors.",
                    "Correct it and save it, or promote another version."));
        }
        List<Problem> problems = ChosenEnvironment.during(environment.name(), () -> jobs.problems(version));
        CannotGoOn.overErrorsAmong(problems);
        return version;
    }

    /** Makes a version the one that runs in an environment from now on. */
    @Transactional
    public PromotionView promote(Jobs.Version version, PromoteJob request, String by) {
        PromotionEntity promotion = new PromotionEntity();
        promotion.jobId = version.jobId();
        promotion.environment = request.to();
        promotion.version = version.version().version();
        promotion.note = request.note().strip();
        promotion.promotedAt = clock.instant();
        promotion.promotedBy = by;
        return view(repository.save(promotion), true);
    }

    /** All promotions of a job, newest first. */
    @Transactional(readOnly = true)
    public List<PromotionView> of(String job) {
        Set<String> seen = new HashSet<>();
        return repository.findByJobIdOrderByIdDesc(jobs.newest(job).jobId()).stream()
                .map(promotion -> view(promotion, seen.add(promotion.environment)))
                .toList();
    }

    private static PromotionView view(PromotionEntity promotion, boolean inForce) {
        return new PromotionView(
                promotion.environment,
                promotion.version,
                inForce,
                promotion.note,
                Objects.requireNonNull(promotion.promotedAt),
                promotion.promotedBy);
    }
}

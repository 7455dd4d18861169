package dev.nachlauf.service.run;

import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.web.Masked;
import jakarta.persistence.EntityManager;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Starts runs, and passes on what people decide about them. */
@Service
public class Runs {
    /** Why runs are held that were started so: nobody has to say that they may go beyond anything. */
    private static final Set<String> AS_ASKED = Set.of(
            ProblemCode.HELD_FOR_REVIEW.id(), ProblemCode.FIRST_ROWS_WRITTEN.id(), ProblemCode.SENSITIVE_CHANGE.id());

    static final List<String> BLOCKING = List.of("waiting", "running", "held");

    private final EntityManager entities;
    private final RunStart start;
    private final RunTransitions transitions;
    private final LedgerOfRun ledger;
    private final RunViews views;
    private final RunScratch scratch;
    private final RunLog log;

    Runs(
            EntityManager entities,
            RunStart start,
            RunTransitions transitions,
            LedgerOfRun ledger,
            RunViews views,
            RunScratch scratch,
            RunLog log) {
        this.entities = entities;
        this.start = start;
        this.transitions = transitions;
        this.ledger = ledger;
        this.views = views;
        this.scratch = scratch;
        this.log = log;
    }

    /** Notes in the log of a run what somebody has found out about it. */
    @Transactional
    public void noteInLog(long run, String text) {
        log.add(run, text);
    }

    /** Starts a run, or says why it can't be. */
    public RunView start(StartRun request, String by) {
        return views.of(start.start(request, by));
    }

    /** Starts a run of a certain version of its job. */
    public RunView start(StartRun request, Jobs.Version version, String by) {
        return views.of(start.start(request, version, by));
    }

    /**
     * What is shown beside the rows of a run.
     *
     * @param header the columns of its source
     * @param masked what is kept from those who look
     */
    public record Surroundings(String job, List<String> header, Masked masked) {}

    /** What is shown beside the rows of a run. */
    @Transactional(readOnly = true)
    public Surroundings surroundings(long id) {
        RunEntity run = views.entity(id);
        Set<String> fields = new HashSet<>();
        run.writes.forEach(write -> fields.addAll(write.sensitive()));
        return new Surroundings(
                run.jobName,
                run.columns.stream().map(SourceColumn::name).toList(),
                new Masked(new HashSet<>(run.sensitiveColumns), fields));
    }

    /** Ends a run after the batch in hand; one that waits ends at once. */
    public RunView stop(long id, String by) {
        RunEntity run = views.entity(id);
        require(run, transitions.stop(id, by), "stopped");
        return settled(id);
    }

    /** Lets a held run go on; what was only foreseen is told anew when it comes true. */
    @Transactional
    public RunView release(long id, boolean beyondLimit, String by) {
        RunEntity run = views.entity(id);
        SecondPerson.require(run, by);
        run.reasons.stream()
                .filter(reason -> !AS_ASKED.contains(reason.code()))
                .findFirst()
                .filter(limit -> run.state.equals("held") && !beyondLimit)
                .ifPresent(limit -> {
                    throw new CannotGoOn(Problem.of(
                            ProblemCode.LIMIT_CROSSED,
                            "Run " + id + " is held: " + limit.sentence(),
                            "Release it with --beyond-limit, or discard it."));
                });
        require(run, transitions.release(id, beyondLimit, by), "released");
        ledger.forgetForeseen(id);
        entities.clear();
        return views.show(id);
    }

    /** Ends a held run; what it has written stays. */
    public RunView discard(long id, String by) {
        RunEntity run = views.entity(id);
        require(run, transitions.discard(id, by), "discarded");
        return settled(id);
    }

    /** What only a run under way needs is removed when everybody can know that it has ended. */
    private RunView settled(long id) {
        RunView run = views.show(id);
        if (run.ended()) {
            scratch.remove(id);
        }
        return run;
    }

    private static void require(RunEntity run, RunTransitions.Met met, String wanted) {
        if (!met.made()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.RUN_STATE,
                    "Run " + run.id + " is " + met.state().word() + " and can't be " + wanted + ".",
                    ""));
        }
    }

    /** The run that keeps a job from being started. */
    static void refuseOverlap(RunRepository runs, RunEntity next) {
        runs.findFirstByJobIdAndEnvironmentAndStateIn(next.jobId, next.environment, BLOCKING)
                .ifPresent(run -> {
                    throw blocked(run.jobName, "Run " + run.id + " of it is " + run.state + ".");
                });
    }

    static CannotGoOn blocked(String job, String why) {
        return new CannotGoOn(Problem.of(
                ProblemCode.RUN_BLOCKED,
                "The job " + job + " can't be started now. " + why,
                "Follow, stop, release or discard that run first."));
    }
}

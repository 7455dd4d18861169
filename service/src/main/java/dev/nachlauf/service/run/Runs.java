package dev.nachlauf.service.run;

import dev.nachlauf.api.BalanceView;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.api.StepCountView;
import dev.nachlauf.api.WriteCountView;
import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.job.LastRunOfJob;
import dev.nachlauf.service.source.SourcePart;
import dev.nachlauf.service.store.Json;
import dev.nachlauf.service.web.Cursors;
import dev.nachlauf.service.web.Masked;
import jakarta.persistence.EntityManager;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Starts runs, shows them, and passes on what people decide about them. */
@Service
public class Runs implements LastRunOfJob {
    private static final List<String> BLOCKING = List.of("waiting", "running", "held");

    private final RunRepository runs;
    private final EntityManager entities;
    private final RunStart start;
    private final RunTransitions transitions;
    private final LedgerOfRun ledger;
    private final RunInput input;
    private final ProgressBoard board;
    private final RunScratch scratch;
    private final Jobs jobs;

    Runs(
            RunRepository runs,
            EntityManager entities,
            RunStart start,
            RunTransitions transitions,
            LedgerOfRun ledger,
            RunInput input,
            ProgressBoard board,
            RunScratch scratch,
            Jobs jobs) {
        this.runs = runs;
        this.entities = entities;
        this.start = start;
        this.transitions = transitions;
        this.ledger = ledger;
        this.input = input;
        this.board = board;
        this.scratch = scratch;
        this.jobs = jobs;
    }

    /** Starts a run, or says why it can't be. */
    public RunView start(StartRun request, String by) {
        return view(start.start(request, by));
    }

    /** Runs, newest first. */
    @Transactional(readOnly = true)
    public Page<RunView> list(@Nullable String job, @Nullable String cursor, int asked) {
        int limit = Cursors.limit(asked);
        long before = Cursors.one(cursor, Long.MAX_VALUE);
        List<RunEntity> found = job == null
                ? runs.findByIdLessThanOrderByIdDesc(before, Limit.of(limit + 1))
                : runs.findByJobNameAndIdLessThanOrderByIdDesc(job, before, Limit.of(limit + 1));
        List<RunView> items = found.stream().limit(limit).map(this::view).toList();
        return new Page<>(
                items, found.size() > limit ? String.valueOf(items.getLast().id()) : null);
    }

    @Override
    @Transactional(readOnly = true)
    public Optional<RunView> of(String job) {
        return runs.findFirstByJobNameOrderByIdDesc(job).map(this::view);
    }

    /** One run. */
    @Transactional(readOnly = true)
    public RunView show(long id) {
        return view(entity(id));
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
        RunEntity run = entity(id);
        Set<String> fields = new HashSet<>();
        run.writes.forEach(write -> fields.addAll(write.sensitive()));
        return new Surroundings(
                run.jobName,
                run.columns.stream().map(SourceColumn::name).toList(),
                new Masked(new HashSet<>(run.sensitiveColumns), fields));
    }

    /** What a run was started with and what it reads. */
    public record KeptInput(
            String job,
            int version,
            Map<String, String> pins,
            Map<String, String> parameters,
            List<SourceColumn> columns,
            List<SourcePart> parts,
            Map<String, List<SourcePart>> lookups,
            String startedBy,
            Instant createdAt) {}

    /** What a run was started with and what it reads, which is kept. */
    @Transactional(readOnly = true)
    public KeptInput input(long id) {
        RunEntity run = entity(id);
        return new KeptInput(
                run.jobName,
                run.jobVersion,
                run.pins,
                run.parameters,
                run.columns,
                input.parts(id),
                input.lookups(id),
                run.startedBy,
                run.createdAt);
    }

    /** Ends a run after the batch in hand; one that waits ends at once. */
    public RunView stop(long id) {
        RunEntity run = entity(id);
        require(run, transitions.stop(id), "stopped");
        return settled(id);
    }

    /** Lets a held run go on; what was only foreseen is told anew when it comes true. */
    @Transactional
    public RunView release(long id, boolean beyondLimit) {
        RunEntity run = entity(id);
        if (run.state.equals("held") && !beyondLimit) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.LIMIT_CROSSED,
                    "Run " + id + " is held by a limit: "
                            + run.reasons.getFirst().sentence(),
                    "Release it with --beyond-limit, or discard it."));
        }
        require(run, transitions.release(id), "released");
        ledger.forgetForeseen(id);
        entities.clear();
        return show(id);
    }

    /** Ends a held run; what it has written stays. */
    public RunView discard(long id) {
        RunEntity run = entity(id);
        require(run, transitions.discard(id), "discarded");
        return settled(id);
    }

    /** What only a run under way needs is removed when everybody can know that it has ended. */
    private RunView settled(long id) {
        RunView run = show(id);
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

    private RunEntity entity(long id) {
        return runs.findById(id)
                .orElseThrow(() -> new CannotGoOn(Problem.of(
                        ProblemCode.NOT_FOUND, "There is no run " + id + ".", "run list shows the newest.")));
    }

    /** The run that keeps a job from being started. */
    static void refuseOverlap(RunRepository runs, long jobId) {
        runs.findFirstByJobIdAndStateIn(jobId, BLOCKING).ifPresent(run -> {
            throw blocked(run.jobName, "Run " + run.id + " of it is " + run.state + ".");
        });
    }

    static CannotGoOn blocked(String job, String why) {
        return new CannotGoOn(Problem.of(
                ProblemCode.RUN_BLOCKED,
                "The job " + job + " can't be started now. " + why,
                "Follow, stop, release or discard that run first."));
    }

    private RunView view(RunEntity run) {
        Optional<ProgressBoard.Progress> live = run.state.equals("running") ? board.find(run.id) : Optional.empty();
        Counts counts = live.filter(progress -> progress.rows() > 0)
                .map(ProgressBoard.Progress::counts)
                .orElseGet(() -> ledger.counts(run.id));
        long rows = live.map(ProgressBoard.Progress::rows)
                .filter(known -> known > 0)
                .orElse(run.rowsRead);
        Map<String, Long> changedFields = ledger.changedFields(run.id);
        return new RunView(
                Objects.requireNonNull(run.id),
                run.jobName,
                run.jobVersion,
                run.state,
                live.map(ProgressBoard.Progress::phase).orElse(""),
                live.map(ProgressBoard.Progress::surveyed).orElse(0L),
                run.note,
                run.reasons,
                balance(run, rows, counts, ledger.tally(run.id), ledger.inDoubt(run.id)),
                changedFields,
                ledger.openRejects(run.id),
                run.writeName,
                run.targetConnection,
                run.targetRecords,
                run.fields,
                run.keyFields,
                run.sourceName,
                input.views(run.id),
                run.warnings,
                run.parameters,
                run.stopRequested,
                run.startedBy,
                run.createdAt,
                run.startedAt,
                run.endedAt);
    }

    private BalanceView balance(RunEntity run, long known, Counts counts, Tally tally, long inDoubt) {
        boolean live = run.balanced == null;
        // while rows are still being counted, those in the ledger are known to be there
        long rows = live ? Math.max(known, counts.read() + inDoubt) : known;
        Balance balance = new Balance(rows, counts, tally, false, inDoubt);
        List<WriteCountView> writes = new ArrayList<>();
        for (int i = 0; i < run.writes.size(); i++) {
            Json.RunWrite write = run.writes.get(i);
            boolean counted = i < tally.writes().size();
            writes.add(write(run, write, counted ? tally.writes().get(i) : write.main() ? counts : Counts.NONE));
        }
        if (writes.isEmpty()) {
            writes.add(write(
                    run,
                    new Json.RunWrite(
                            run.writeName,
                            run.targetConnection,
                            run.targetRecords,
                            run.fields,
                            run.keyFields,
                            true,
                            List.of()),
                    counts));
        }
        return new BalanceView(
                balance.read(),
                counts.skipped(),
                counts.rejected(),
                balance.passed(),
                balance.unreached(),
                balance.unknown(),
                counts.taken(),
                counts.inserted(),
                counts.updated(),
                counts.unchanged(),
                counts.deleted(),
                counts.issued(),
                counts.refused(),
                counts.warned(),
                tally.elsewhere(),
                !Boolean.FALSE.equals(run.balanced) && balance.gap().isEmpty(),
                steps(run, counts, tally),
                writes);
    }

    private static WriteCountView write(RunEntity run, Json.RunWrite write, Counts counts) {
        return new WriteCountView(
                write.name(),
                write.connection().isEmpty() ? run.targetConnection : write.connection(),
                write.records(),
                write.main(),
                counts.taken(),
                counts.inserted(),
                counts.updated(),
                counts.unchanged(),
                counts.deleted(),
                counts.issued(),
                counts.refused(),
                write.fields(),
                write.keyFields(),
                write.sensitive());
    }

    /** The steps, below what could not even be read. */
    private List<StepCountView> steps(RunEntity run, Counts counts, Tally tally) {
        if (tally.steps().isEmpty()) {
            return List.of();
        }
        List<String> labels = jobs.stepLabels(run.jobName, run.jobVersion, run.pins);
        List<StepCountView> steps = new ArrayList<>();
        long readable = tally.steps().getFirst().in();
        steps.add(new StepCountView("reading", counts.read(), 0, readable, 0, counts.read() - readable, 0));
        for (int i = 0; i < tally.steps().size(); i++) {
            StepCount count = tally.steps().get(i);
            steps.add(new StepCountView(
                    i < labels.size() ? labels.get(i) : "map",
                    count.in(),
                    count.made(),
                    count.out(),
                    count.skipped(),
                    count.rejected(),
                    count.merged()));
        }
        return steps;
    }
}

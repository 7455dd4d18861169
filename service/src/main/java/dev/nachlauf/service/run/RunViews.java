package dev.nachlauf.service.run;

import dev.nachlauf.api.Page;
import dev.nachlauf.api.PutBackView;
import dev.nachlauf.api.RunLine;
import dev.nachlauf.api.RunView;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowRanges;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.service.environment.ChosenEnvironment;
import dev.nachlauf.service.job.LastRunOfJob;
import dev.nachlauf.service.store.Json;
import dev.nachlauf.service.web.Cursors;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Shows runs from their rows alone, whatever the length of their ledgers; of a run that this process carries out, as it is
 * at this moment.
 */
@Component
public class RunViews implements LastRunOfJob {
    private final RunRepository runs;
    private final RunInput input;
    private final ProgressBoard board;
    private final RunBalances balances;
    private final LeftOut leftOut;

    RunViews(RunRepository runs, RunInput input, ProgressBoard board, RunBalances balances, LeftOut leftOut) {
        this.leftOut = leftOut;
        this.runs = runs;
        this.input = input;
        this.board = board;
        this.balances = balances;
    }

    /** Runs, newest first, of the environment that was named, if any. */
    @Transactional(readOnly = true)
    public Page<RunLine> list(@Nullable String job, @Nullable String cursor, int asked) {
        int limit = Cursors.limit(asked);
        long before = Cursors.one(cursor, Long.MAX_VALUE);
        Limit more = Limit.of(limit + 1);
        String environment = ChosenEnvironment.name().orElse("");
        List<RunRow> found =
                job == null ? runs.rows(environment, before, more) : runs.rowsOf(job, environment, before, more);
        List<RunLine> items = found.stream().limit(limit).map(this::line).toList();
        return new Page<>(
                items, found.size() > limit ? String.valueOf(items.getLast().id()) : null);
    }

    @Override
    @Transactional(readOnly = true)
    public Map<String, RunLine> of(Collection<String> jobs) {
        return runs.rows(runs.newestOf(jobs, ChosenEnvironment.name().orElse(""))).stream()
                .map(this::line)
                .collect(Collectors.toMap(RunLine::job, Function.identity()));
    }

    /** One run. */
    @Transactional(readOnly = true)
    public RunView show(long id) {
        return of(entity(id));
    }

    /** What has to be known to show the ledger of a run. */
    @Transactional(readOnly = true)
    public LedgerOf ledger(long id) {
        RunEntity run = entity(id);
        return new LedgerOf(
                id,
                run.stage(),
                of(run).balance().writes(),
                run.knownWrites().stream().map(Json.RunWrite::ids).toList(),
                run.isPlannedFirst() ? leftOut.rows(id) : new RowRanges());
    }

    /** A run that has ended, for those who read what it has written. */
    @Transactional(readOnly = true)
    public WrittenRun written(long id) {
        RunEntity run = entity(id);
        boolean firstWritten = run.state.equals(RunState.HELD.word()) && !run.planning();
        if (run.endedAt == null && !firstWritten) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.RUN_STATE,
                    "Run " + id + " is " + run.state + ".",
                    "Wait until it has ended or is held; then it can be compared with what is there."));
        }
        return new WrittenRun(
                id,
                run.jobName,
                run.jobVersion,
                run.mode,
                run.environment,
                run.undoes,
                Objects.requireNonNullElse(run.releasedBy, run.startedBy),
                Objects.requireNonNullElse(run.endedAt, run.createdAt),
                run.ledgerWrites(),
                run.writes.stream().map(write -> Set.copyOf(write.sensitive())).toList());
    }

    RunEntity entity(long id) {
        return runs.findById(id)
                .orElseThrow(() -> new CannotGoOn(Problem.of(
                        ProblemCode.NOT_FOUND, "There is no run " + id + ".", "run list shows the newest.")));
    }

    private RunLine line(RunRow run) {
        Optional<ProgressBoard.Progress> live = live(run.id(), run.state());
        RunTotals totals = totals(
                live,
                Optional.ofNullable(run.totals())
                        .orElseGet(() -> balances.sums(run.id()).totals()));
        return new RunLine(
                run.id(),
                run.jobName(),
                run.jobVersion(),
                run.state(),
                run.mode(),
                run.environment(),
                RunEntity.planning(run.mode(), run.plannedFirst(), run.releasedAt()),
                run.note(),
                run.reasons(),
                balances.line(rows(live, run.rowsRead()), totals, run.balanced()),
                run.openRejects() + run.foreseenRejects(),
                run.sourceName(),
                run.undoes(),
                run.startedBy(),
                run.createdAt(),
                run.startedAt(),
                run.endedAt());
    }

    RunView of(RunEntity run) {
        Optional<ProgressBoard.Progress> live = live(run.id, run.state);
        return of(run, live, sums(run, live));
    }

    private RunView of(RunEntity run, Optional<ProgressBoard.Progress> live, RunSums sums) {
        return new RunView(
                Objects.requireNonNull(run.id),
                run.jobName,
                run.jobVersion,
                run.state,
                run.mode,
                run.environment,
                run.planning(),
                live.map(ProgressBoard.Progress::phase).orElse(""),
                live.map(ProgressBoard.Progress::surveyed).orElse(0L),
                pace(run.id, live),
                run.note,
                run.reasons,
                balances.of(run, rows(live, run.rowsRead), sums),
                run.controlTotals,
                run.issued,
                run.putBack.equals("none") ? null : new PutBackView(run.putBack, run.putBackNote),
                sums.changedFields(),
                run.openRejects + run.foreseenRejects,
                run.writeName,
                run.targetConnection,
                run.targetRecords,
                run.fields,
                run.keyFields,
                run.sourceName,
                input.views(run.id),
                run.warnings,
                run.parameters,
                run.pins,
                new RunView.Choice(run.chosenRows, run.chosenWhere, run.firstRows, run.resubmits),
                run.stopRequested,
                run.isPlannedFirst() ? leftOut.rows(run.id).count() : 0,
                run.state.equals("held") ? run.heldUntil : null,
                run.releasedBy,
                run.releasedAt,
                run.undoes,
                runs.undoing(run.id).orElse(null),
                run.startedBy,
                run.createdAt,
                run.startedAt,
                run.endedAt);
    }

    private RunSums sums(RunEntity run, Optional<ProgressBoard.Progress> live) {
        RunSums known = run.totals == null
                ? balances.sums(run.id)
                : new RunSums(
                        run.totals,
                        Objects.requireNonNullElse(run.tally, Tally.NONE),
                        Objects.requireNonNullElse(run.changedFields, Map.of()));
        return new RunSums(totals(live, known.totals()), known.tally(), known.changedFields());
    }

    private Optional<ProgressBoard.Progress> live(long run, String state) {
        return state.equals("running") ? board.find(run) : Optional.empty();
    }

    private RunView.@Nullable Pace pace(long run, Optional<ProgressBoard.Progress> live) {
        Pace pace = live.flatMap(progress -> board.pace(run)).orElse(null);
        if (pace == null || pace.rate().isEmpty()) {
            return null;
        }
        OptionalLong left = pace.secondsTo(live.orElseThrow().rows());
        return new RunView.Pace(pace.rate().getAsLong(), left.isPresent() ? left.getAsLong() : null);
    }

    private static long rows(Optional<ProgressBoard.Progress> live, long noted) {
        return live.map(ProgressBoard.Progress::rows).filter(known -> known > 0).orElse(noted);
    }

    /** The board is ahead of what is noted, but knows the counts only. */
    private static RunTotals totals(Optional<ProgressBoard.Progress> live, RunTotals noted) {
        return live.filter(progress -> progress.rows() > 0)
                .map(progress -> new RunTotals(progress.counts(), noted.elsewhere(), noted.inDoubt()))
                .orElse(noted);
    }
}

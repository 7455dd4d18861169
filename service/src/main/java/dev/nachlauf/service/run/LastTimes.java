package dev.nachlauf.service.run;

import dev.nachlauf.core.drift.ColumnDrift;
import dev.nachlauf.core.drift.Drift;
import dev.nachlauf.core.drift.RunTraits;
import dev.nachlauf.core.drift.RunTraits.Changes;
import dev.nachlauf.core.job.Guards.Guard;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Component;

/** What is unlike the finished runs before a run, and what follows from it. */
@Component
class LastTimes {
    /** So many runs are compared with. */
    private static final int RUNS = 5;

    private static final int SHOWN = 5;
    private static final Set<ProblemCode> SIGNS =
            Set.of(ProblemCode.COLUMN_LOST, ProblemCode.COLUMN_NEW, ProblemCode.UNLIKE_LAST_TIME);

    private final RunRepository runs;

    LastTimes(RunRepository runs) {
        this.runs = runs;
    }

    private List<RunEntity> before(RunEntity run) {
        return runs.lastWritten(run.jobId, run.environment, RunGathering.NOTHING_NEW, Limit.of(RUNS));
    }

    /**
     * What is to be told of the columns of a run that has just been gathered.
     *
     * @throws CannotGoOn where it has none of those that were there before
     */
    List<Problem> columns(RunEntity run, JobDefinition job) {
        if (isAllowed(job)) {
            return List.of();
        }
        return before(run).stream()
                .findFirst()
                .map(last -> new ColumnDrift(names(last), names(run)))
                .map(drift -> told(run, drift))
                .orElse(List.of());
    }

    private static List<String> names(RunEntity run) {
        return run.columns.stream().map(SourceColumn::name).toList();
    }

    private static List<Problem> told(RunEntity run, ColumnDrift drift) {
        List<String> lost = drift.lost();
        if (!lost.isEmpty() && lost.size() == drift.before().size()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.FILE_HEADER,
                    run.sourceName + " has none of the columns that earlier runs of " + run.jobName + " have read ("
                            + String.join(", ", lost.subList(0, Math.min(SHOWN, lost.size())))
                            + (lost.size() > SHOWN ? " …" : "") + "): it is probably another file.",
                    "Give the right file. If this is how the file looks from now on, copy the job under a new name."));
        }
        return drift.problems(run.sourceName);
    }

    /** What is to be told of the values in its first rows. */
    List<Problem> values(RunEntity run, JobDefinition job) {
        return isAllowed(job) ? List.of() : drift(run).values(run.traits, Set.copyOf(run.sensitiveColumns));
    }

    private static boolean isAllowed(JobDefinition job) {
        return job.guards().unlikeLastTime() == Guard.ALLOW;
    }

    private Drift drift(RunEntity run) {
        return new Drift(before(run).stream().map(LastTimes::traits).toList());
    }

    private static RunTraits traits(RunEntity run) {
        Counts counts = run.totals == null ? Counts.NONE : run.totals.counts();
        return new RunTraits(run.rowsRead, run.traits, changes(counts));
    }

    private static Changes changes(Counts counts) {
        return new Changes(counts.taken(), counts.inserted(), counts.updated());
    }

    /** The result of a run that has come to the end of its source, with what is unlike the runs before. */
    RunResult checked(RunEntity run, JobDefinition job, RunResult result) {
        boolean ended = result.state() == RunState.FINISHED || result.state() == RunState.HELD;
        if (!ended
                || isAllowed(job)
                || result.balance().unreached() > 0
                || run.choice().isPart()) {
            return result;
        }
        List<Problem> told = new ArrayList<>();
        // what changes since last time is never as much as last time
        if (job.read().changedSince().isEmpty() && run.runMode() != RunMode.UNDO) {
            Drift drift = drift(run);
            drift.rows(result.balance().read()).ifPresent(told::add);
            told.addAll(drift.changes(changes(result.balance().counts())));
        }
        long signs = told.size()
                + run.warnings.stream()
                        .filter(warning ->
                                SIGNS.stream().anyMatch(code -> code.id().equals(warning.code())))
                        .count();
        RunResult warned = new RunResult(
                result.state(),
                result.reasons(),
                Stream.concat(result.warnings().stream(), told.stream()).toList(),
                result.balance());
        boolean hold = job.guards().unlikeLastTime() == Guard.HOLD && !run.beyondLimit && run.planning();
        return hold && signs > 0 ? held(run, warned, signs) : warned;
    }

    private static RunResult held(RunEntity run, RunResult result, long signs) {
        String what = signs == 1 ? "1 thing is" : signs + " things are";
        boolean waits = run.plannedFirst || run.runMode() == RunMode.HOLD;
        if (!waits) {
            List<Problem> warnings = new ArrayList<>(result.warnings());
            warnings.add(Problem.of(
                    ProblemCode.LIMIT_FORESEEN,
                    "A load of these rows is held: " + what + " unlike the last runs.",
                    "Look at the warnings."));
            return new RunResult(result.state(), result.reasons(), warnings, result.balance());
        }
        List<Problem> reasons = new ArrayList<>(result.reasons());
        reasons.add(Problem.of(
                ProblemCode.GUARD_HELD,
                what + " unlike the last runs; the warnings say what, and the job says to hold then.",
                "Look at what is planned, then release the run all the same (--beyond-limit), or discard it."));
        return new RunResult(RunState.HELD, reasons, result.warnings(), result.balance());
    }
}

package dev.nachlauf.service.run;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.service.NachlaufSettings;
import dev.nachlauf.service.web.ProblemViews;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Changes of a run's state, each in a transaction of its own and only by who owns the run. */
@Component
class RunStates {
    private static final Logger LOG = LoggerFactory.getLogger(RunStates.class);

    private final RunRepository runs;
    private final RunFence fence;
    private final RunInput input;
    private final NachlaufSettings settings;
    private final Clock clock;

    RunStates(RunRepository runs, RunFence fence, RunInput input, NachlaufSettings settings, Clock clock) {
        this.runs = runs;
        this.fence = fence;
        this.input = input;
        this.settings = settings;
        this.clock = clock;
    }

    /** Takes a run over; empty where there is nothing left to do. */
    @Transactional
    Optional<RunEntity> claim(long id) {
        return runs.claim(id, clock.instant()) == 0 ? Optional.empty() : runs.findById(id);
    }

    @Transactional(readOnly = true)
    boolean stopRequested(long id) {
        return runs.findById(id).map(run -> run.stopRequested).orElse(true);
    }

    @Transactional(readOnly = true)
    long rowsRead(long id) {
        return runs.findById(id).map(run -> run.rowsRead).orElse(0L);
    }

    @Transactional
    void rows(RunEntity run, long rows) {
        runs.rows(run.id, run.epoch, rows);
    }

    /** The run has ended, or is held. */
    @Transactional
    void end(RunEntity owned, RunResult result) {
        fence.hold(owned.id, owned.epoch);
        RunEntity run = runs.findById(owned.id).orElseThrow();
        run.state = result.state().word();
        run.reasons = ProblemViews.of(result.reasons());
        List<ProblemView> warnings = new ArrayList<>(run.warnings);
        ProblemViews.of(result.warnings()).stream()
                .filter(warning -> !warnings.contains(warning))
                .forEach(warnings::add);
        run.warnings = warnings;
        run.rowsRead = result.balance().read();
        run.note = "";
        if (result.state().isFinal()) {
            run.endedAt = clock.instant();
        }
        if (result.state() == RunState.FINISHED) {
            input.markTaken(run);
            input.moveWatermark(run);
        }
        LOG.info("run {} of {} is {}", run.id, run.jobName, run.state);
    }

    /** Notes that the target can't be reached; false where the patience is at its end. */
    @Transactional
    boolean mayWait(RunEntity owned, List<Problem> problems) {
        RunEntity run = runs.findById(owned.id).orElseThrow();
        if (run.epoch != owned.epoch) {
            return true;
        }
        Instant now = clock.instant();
        if (run.unreachableSince == null) {
            run.unreachableSince = now;
        }
        run.state = "waiting";
        run.note = problems.getFirst().sentence() + " The run tries again by itself.";
        LOG.info(
                "run {} of {} waits: {}",
                run.id,
                run.jobName,
                problems.getFirst().code().id());
        return now.isBefore(run.unreachableSince.plus(settings.patience()));
    }
}

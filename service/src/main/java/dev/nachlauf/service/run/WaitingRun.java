package dev.nachlauf.service.run;

import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.service.job.Jobs;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/** New runs. */
final class WaitingRun {
    private WaitingRun() {}

    /** A new run that waits for its turn; what it reads and writes is filled in by whoever makes it. */
    static RunEntity of(Jobs.Version version, RunMode mode, String by, Instant now, int batchRows) {
        RunEntity run = new RunEntity();
        run.jobId = version.jobId();
        run.jobName = version.name();
        run.jobVersion = version.version().version();
        run.state = RunState.WAITING.word();
        run.mode = mode.word();
        run.note = "";
        run.reasons = List.of();
        run.warnings = List.of();
        run.parameters = Map.of();
        run.columns = List.of();
        run.fields = List.of();
        run.keyFields = List.of();
        run.targetDescription = "";
        run.startedBy = by;
        run.createdAt = now;
        run.batchRows = batchRows;
        run.totals = RunTotals.NONE;
        run.tally = Tally.NONE;
        run.changedFields = Map.of();
        return run;
    }
}

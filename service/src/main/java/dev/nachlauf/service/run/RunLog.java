package dev.nachlauf.service.run;

import dev.nachlauf.api.RunLogLine;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.run.RunResult;
import dev.nachlauf.service.run.RunTransitions.Met;
import java.time.Clock;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** What happened to runs. A line is written in the transaction of the change that it tells of, or not at all. */
@Component
@Transactional(propagation = Propagation.MANDATORY)
public class RunLog {
    private static final String WAITS = "Waits: ";

    private final RunLogRepository lines;
    private final Clock clock;

    RunLog(RunLogRepository lines, Clock clock) {
        this.lines = lines;
        this.clock = clock;
    }

    @Transactional(readOnly = true)
    List<RunLogLine> of(long run) {
        return lines.findByRunIdOrderById(run).stream()
                .map(line -> new RunLogLine(line.at, line.text))
                .toList();
    }

    /** Adds a line in the transaction under way. */
    public void add(long run, String text) {
        RunLogEntity line = new RunLogEntity();
        line.runId = run;
        line.at = clock.instant();
        line.text = text;
        lines.save(line);
    }

    /** Tells of a change that was made. */
    Met told(Met met, long run, String text) {
        if (met.made()) {
            add(run, text);
        }
        return met;
    }

    /** A run that waits tries again every few seconds; only what it waits for first is told. */
    Met waits(Met met, long run, String what) {
        return met.made() && last(run).equals(WAITS + what) ? met : told(met, run, WAITS + what);
    }

    /** A service has taken the run up, for the first time, or after another one died. */
    Met takenUp(Met met, long run) {
        return last(run).startsWith(WAITS) ? met : told(met, run, "Is taken up by a service.");
    }

    private String last(long run) {
        return lines.findFirstByRunIdOrderByIdDesc(run).map(line -> line.text).orElse("");
    }

    Met ended(Met met, long run, RunResult result) {
        String why = result.reasons().isEmpty()
                ? "."
                : ": " + result.reasons().stream().map(Problem::sentence).collect(Collectors.joining(" "));
        long read = result.balance().read();
        return told(
                met,
                run,
                switch (result.state()) {
                    case HELD -> "Is held" + why;
                    case FAILED -> "Failed" + why;
                    case STOPPED -> "Stopped" + why;
                    default -> "Finished: " + read + (read == 1 ? " row" : " rows") + " read.";
                });
    }
}

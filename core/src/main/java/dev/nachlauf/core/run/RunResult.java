package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.problem.Problem;
import java.util.List;

/**
 * How a run ended, or why it waits.
 *
 * @param warnings what is to be said of the load as a whole
 */
public record RunResult(RunState state, List<Problem> reasons, List<Problem> warnings, Balance balance) {
    /** A result without warnings. */
    public RunResult(RunState state, List<Problem> reasons, Balance balance) {
        this(state, reasons, List.of(), balance);
    }
}

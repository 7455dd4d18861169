package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.problem.Problem;
import java.util.List;

/** How a run ended, or why it waits. */
public record RunResult(RunState state, List<Problem> reasons, Balance balance) {}

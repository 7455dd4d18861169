package dev.nachlauf.service.run;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.environment.EnvironmentUse;
import org.springframework.stereotype.Component;

/** The runs of an environment. */
@Component
class EnvironmentRuns implements EnvironmentUse {
    private final RunRepository runs;

    EnvironmentRuns(RunRepository runs) {
        this.runs = runs;
    }

    @Override
    public void requireIdle(String environment) {
        runs.findFirstByEnvironmentAndStateIn(environment, Runs.BLOCKING).ifPresent(run -> {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.ENVIRONMENT_BUSY,
                    "Run " + run.id + " of " + run.jobName + " is " + run.state + " in " + environment + ".",
                    "Wait for it, or stop or discard it first."));
        });
    }
}

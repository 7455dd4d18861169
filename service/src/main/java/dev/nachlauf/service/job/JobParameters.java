package dev.nachlauf.service.job;

import dev.nachlauf.api.ParameterView;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.environment.Environments;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What the parameters of a job are where nobody gives them a value. */
@Component
public class JobParameters {
    private final Environments environments;

    JobParameters(Environments environments) {
        this.environments = environments;
    }

    /**
     * Their values: the environment's, else the defaults.
     *
     * @param problems what is wrong with the environment's values; that a parameter has none yet is not wrong
     */
    public Map<String, @Nullable Object> values(JobDefinition job, List<Problem> problems) {
        List<Problem> found = new ArrayList<>();
        Map<String, @Nullable Object> values =
                Parameters.resolve(job, environments.current().parameters(job, Map.of()), found);
        found.stream()
                .filter(problem -> problem.code() != ProblemCode.PARAMETER_MISSING)
                .forEach(problems::add);
        return values;
    }

    /** What a run of a job can be given. */
    List<ParameterView> views(JobDefinition job) {
        List<Problem> problems = new ArrayList<>();
        Map<String, @Nullable Object> otherwise = values(job, problems);
        CannotGoOn.overErrorsAmong(problems);
        return job.parameters().stream()
                .map(parameter -> new ParameterView(
                        parameter.name().value(),
                        parameter.kind().word(),
                        Values.text(otherwise.get(parameter.name().value())),
                        parameter.required() && otherwise.get(parameter.name().value()) == null,
                        parameter.list(),
                        parameter.allowed().stream()
                                .map(value -> String.valueOf(Values.text(value)))
                                .toList(),
                        parameter.ask()))
                .toList();
    }
}

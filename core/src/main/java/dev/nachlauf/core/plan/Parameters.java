package dev.nachlauf.core.plan;

import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The values of a job's parameters: defaults, and what was given when the run was started. */
public final class Parameters {
    private Parameters() {}

    /** The value of each parameter; what is wrong is added to {@code problems}. */
    public static Map<String, @Nullable Object> resolve(
            JobDefinition job, Map<String, String> given, List<Problem> problems) {
        Map<String, @Nullable Object> values = new HashMap<>();
        for (JobDefinition.Parameter parameter : job.parameters()) {
            String name = parameter.name().value();
            String text = given.get(name);
            values.put(name, parameter.defaultValue());
            if (text != null) {
                try {
                    values.put(name, TextParser.of(parameter.kind(), null, null).parse(text));
                } catch (ValueProblem problem) {
                    problems.add(Problem.inField(
                            ProblemCode.VALUE_MALFORMED, name, text, problem.sentence(), "Give another value."));
                }
            } else if (parameter.defaultValue() == null) {
                problems.add(Problem.of(
                        ProblemCode.PARAMETER_MISSING,
                        "The parameter " + name + " has no value.",
                        "Give it with --set " + name + "=…"));
            }
        }
        for (String name : given.keySet()) {
            if (!values.containsKey(name)) {
                problems.add(Problem.of(
                        ProblemCode.PARAMETER_UNKNOWN,
                        "The job has no parameter " + name + ".",
                        NearestNames.suggestion(name, values.keySet(), "")));
            }
        }
        return values;
    }
}

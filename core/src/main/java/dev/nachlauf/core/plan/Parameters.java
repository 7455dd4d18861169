package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Scope.Fixed;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
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
                values.put(name, value(parameter, text, problems));
            } else if (parameter.defaultValue() == null && parameter.required()) {
                problems.add(Problem.of(
                        ProblemCode.PARAMETER_MISSING,
                        parameter.ask().isEmpty()
                                ? "The parameter " + name + " has no value."
                                : "The parameter " + name + " has no value: " + parameter.ask(),
                        "Give it with --set " + name + "=…" + choices(parameter)));
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

    private static @Nullable Object value(JobDefinition.Parameter parameter, String text, List<Problem> problems) {
        if (parameter.list()) {
            List<Object> values = new ArrayList<>();
            for (String part : text.split("[,\\n]")) {
                Object one = part.isBlank() ? null : single(parameter, part.strip(), problems);
                if (one != null) {
                    values.add(one);
                }
            }
            return values;
        }
        return single(parameter, text, problems);
    }

    private static @Nullable Object single(JobDefinition.Parameter parameter, String text, List<Problem> problems) {
        String name = parameter.name().value();
        try {
            Object value = TextParser.of(parameter.kind(), null, null).parse(text);
            if (!parameter.allowed().isEmpty()
                    && parameter.allowed().stream().noneMatch(one -> Values.same(one, value))) {
                problems.add(Problem.inField(
                        ProblemCode.VALUE_NOT_ALLOWED,
                        name,
                        text,
                        "'" + Values.shortened(text) + "' is not allowed for " + name + ".",
                        "Give another value" + choices(parameter)));
            }
            return value;
        } catch (ValueProblem problem) {
            problems.add(Problem.inField(
                    ProblemCode.VALUE_MALFORMED, name, text, problem.sentence(), "Give another value."));
            return null;
        }
    }

    private static String choices(JobDefinition.Parameter parameter) {
        return parameter.allowed().isEmpty()
                ? ""
                : ": "
                        + parameter.allowed().stream()
                                .map(one -> String.valueOf(Values.text(one)))
                                .collect(Collectors.joining(", "))
                        + ".";
    }

    /** The parameters as formulas see them; lists are for reading only. */
    public static Map<String, Fixed> fixed(JobDefinition job, Map<String, @Nullable Object> values) {
        Map<String, Fixed> fixed = new HashMap<>();
        for (JobDefinition.Parameter parameter : job.parameters()) {
            if (!parameter.list()) {
                String name = parameter.name().value();
                fixed.put(name, new Fixed(parameter.kind(), values.get(name)));
            }
        }
        return fixed;
    }
}

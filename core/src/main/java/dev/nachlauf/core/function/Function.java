package dev.nachlauf.core.function;

import dev.nachlauf.core.value.Kind;
import java.util.List;
import java.util.stream.Collectors;

/**
 * One function. It is never called with a null: any null argument makes the result null.
 *
 * @param required how many of the parameters must be given; the others may be left out from the end
 * @param help one sentence
 * @param errors when a row is rejected; empty when never
 * @param example a formula, executed as a test
 * @param exampleResult the canonical text of its result
 */
public record Function(
        String name,
        List<Parameter> parameters,
        int required,
        Kind result,
        String help,
        String errors,
        String example,
        String exampleResult,
        Body body) {

    /** A parameter; an integer is taken where a decimal is wanted. */
    public record Parameter(String name, Kind kind) {}

    /** What the function computes; throws {@link dev.nachlauf.core.value.ValueProblem}. */
    @FunctionalInterface
    public interface Body {
        Object apply(Object[] arguments);
    }

    /** The signature for people, such as {@code substring(text, integer[, integer])}. */
    public String signature() {
        StringBuilder out = new StringBuilder(name).append('(');
        out.append(parameters.stream()
                .limit(required)
                .map(parameter -> parameter.kind().word())
                .collect(Collectors.joining(", ")));
        for (Parameter optional : parameters.subList(required, parameters.size())) {
            out.append("[, ").append(optional.kind().word()).append(']');
        }
        return out.append(')').toString();
    }
}

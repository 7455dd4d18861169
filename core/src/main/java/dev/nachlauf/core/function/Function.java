package dev.nachlauf.core.function;

import dev.nachlauf.core.value.Kind;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * One function. It is never called with a null: any null argument makes the result null. Several functions may share a
 * name where their parameters differ; the first one whose parameters fit is taken.
 *
 * @param required how many of the parameters must be given; the others may be left out from the end
 * @param help one sentence
 * @param errors when a row is rejected; empty when never
 * @param example a formula, executed as a test
 * @param exampleResult the canonical text of its result
 */
public record Function(
        String name,
        Topic topic,
        List<Parameter> parameters,
        int required,
        Kind result,
        String help,
        String errors,
        String example,
        String exampleResult,
        Preparation preparation) {
    /** More parameters than this would need an array per call. */
    public static final int MOST_PARAMETERS = 3;

    public Function {
        parameters = List.copyOf(parameters);
        if (parameters.isEmpty() || parameters.size() > MOST_PARAMETERS || required > parameters.size()) {
            throw new IllegalArgumentException(name + " has an impossible number of parameters");
        }
    }

    /** What a function is about; the order is that of the documentation. */
    public enum Topic {
        TEXT("Text"),
        PATTERNS("Patterns"),
        NUMBERS("Numbers"),
        DATES("Dates and times"),
        LISTS("Lists"),
        CODES("Codes and check digits");

        private final String title;

        Topic(String title) {
            this.title = title;
        }

        /** The heading. */
        public String title() {
            return title;
        }
    }

    /** A parameter; an integer is taken where a decimal is wanted. */
    public record Parameter(String name, Kind kind) {}

    /**
     * What the function computes. Arguments that were left out are null. Throws {@link
     * dev.nachlauf.core.value.ValueProblem}.
     */
    @FunctionalInterface
    public interface Body {
        @Nullable
        Object apply(Object first, @Nullable Object second, @Nullable Object third);
    }

    /**
     * Makes the body. Arguments that are the same for every row are known here, so that a pattern is compiled once and a
     * malformed one is found when the formula is checked: then it throws {@link dev.nachlauf.core.value.ValueProblem}.
     */
    @FunctionalInterface
    public interface Preparation {
        /** The body; {@code second} and {@code third} are null where they are not constant. */
        Body prepare(@Nullable Object second, @Nullable Object third);
    }

    /** The signature for people, such as {@code substring(text, start[, count])}. */
    public String signature() {
        StringBuilder out = new StringBuilder(name).append('(');
        out.append(parameters.stream().limit(required).map(Parameter::name).collect(Collectors.joining(", ")));
        for (Parameter optional : parameters.subList(required, parameters.size())) {
            out.append("[, ").append(optional.name()).append(']');
        }
        return out.append(')').toString();
    }

    /** The kinds of the parameters, for messages and docs. */
    public String kinds() {
        return parameters.stream().map(parameter -> parameter.kind().word()).collect(Collectors.joining(", "));
    }
}

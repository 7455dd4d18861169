package dev.nachlauf.core.job;

import dev.nachlauf.core.document.SettingValue;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Where jobs run: a name, and the values that differ from other environments.
 *
 * @param live whether it is the one that counts: only what was promoted to it runs there
 * @param values plain values, and references of secrets ({@code env:NAME} or {@code file:PATH})
 */
public record EnvironmentDefinition(String name, String title, boolean live, Map<String, String> values) {
    /** Where no environment is defined, there is one without a name and values. */
    public static final EnvironmentDefinition NONE = new EnvironmentDefinition("", "", false, Map.of());

    private static final Pattern NAMED = Pattern.compile("\\$\\{([^}]*)}");

    public EnvironmentDefinition {
        values = Map.copyOf(values);
    }

    /** Whether a setting takes all of its value from an environment, as the one of a secret must. */
    public static boolean isNamed(String setting) {
        return NAMED.matcher(setting).matches();
    }

    /** Whether settings take anything from an environment. */
    public static boolean isNamedIn(ConnectionDefinition connection) {
        return connection.settings().values().stream()
                .anyMatch(setting -> NAMED.matcher(setting).find());
    }

    /** The connection with the values of this environment in its settings; what can't be filled is said. */
    public ConnectionDefinition fill(ConnectionDefinition connection, List<Problem> problems) {
        Map<String, String> settings = new LinkedHashMap<>();
        connection.settings().forEach((setting, text) -> {
            Place place = connection.places().getOrDefault(setting, Place.NOWHERE);
            settings.put(setting, filled(text, place, problems));
        });
        return connection.with(settings);
    }

    private String filled(String text, Place place, List<Problem> problems) {
        Matcher named = NAMED.matcher(text);
        StringBuilder filled = new StringBuilder();
        while (named.find()) {
            String value = value(named.group(1), place, problems);
            if (SettingValue.isReference(value) && !isNamed(text)) {
                problems.add(Problem.at(
                        place,
                        ProblemCode.SECRET_UNSAFE,
                        "The value " + named.group(1) + " is a secret, and a secret never is a part of another text.",
                        "Give it a setting of its own."));
            }
            named.appendReplacement(filled, Matcher.quoteReplacement(value));
        }
        return named.appendTail(filled).toString();
    }

    private String value(String wanted, Place place, List<Problem> problems) {
        String value = values.get(wanted);
        if (value == null) {
            problems.add(Problem.at(
                    place,
                    ProblemCode.ENVIRONMENT_VALUE_MISSING,
                    name.isEmpty()
                            ? "The value " + wanted + " comes from an environment, and there is none."
                            : "The environment " + name + " has no value " + wanted + ".",
                    name.isEmpty()
                            ? "Save one with: nachlauf environment save FILE"
                            : NearestNames.suggestion(
                                    wanted, values.keySet(), "Add it to the environment and save that.")));
        }
        return value == null ? "" : value;
    }

    /**
     * The parameters of a job, by name: what was given, and of the others those that are values of this environment. A
     * secret is no parameter.
     */
    public Map<String, String> parameters(JobDefinition job, Map<String, String> given) {
        Map<String, String> parameters = new HashMap<>();
        job.parameters().forEach(parameter -> {
            String value = values.get(parameter.name().value());
            if (value != null && !SettingValue.isReference(value)) {
                parameters.put(parameter.name().value(), value);
            }
        });
        parameters.putAll(given);
        return parameters;
    }
}

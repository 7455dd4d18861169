package dev.nachlauf.core.job;

import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.job.JobDefinition.Assignment;
import dev.nachlauf.core.job.JobDefinition.Parameter;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What the sections of a job have in common: names, kinds, and words that may hold parameters. */
final class Words {
    /** Names of steps, writes and parameters. */
    static final Pattern STEP_NAME = Pattern.compile("[a-z][a-z0-9_]{0,62}");

    private static final Pattern PLACEHOLDER = Pattern.compile("\\$\\{([^}]*)}");

    private final List<String> parameters;
    private final List<Problem> problems;

    Words(List<Parameter> parameters, List<Problem> problems) {
        this.parameters =
                parameters.stream().map(parameter -> parameter.name().value()).toList();
        this.problems = problems;
    }

    void add(Place place, ProblemCode code, String sentence, String remedy) {
        problems.add(Problem.at(place, code, sentence, remedy));
    }

    /** A word in which every {@code ${name}} is a parameter. */
    Placed<String> placed(Section section, String key) {
        return placed(section, key, Set.of());
    }

    /** The same, where some other names have a meaning too. */
    Placed<String> placed(Section section, String key, Set<String> others) {
        String text = section.requiredText(key).orElse("");
        Matcher matcher = PLACEHOLDER.matcher(text);
        while (matcher.find()) {
            if (!others.contains(matcher.group(1))) {
                requireParameter(section, key, matcher.group(1));
            }
        }
        return new Placed<>(text, section.placeOfValue(key));
    }

    void requireParameter(Section section, String key, String name) {
        if (!name.isEmpty() && !parameters.contains(name)) {
            section.problem(
                    key,
                    ProblemCode.PARAMETER_UNKNOWN,
                    "The job has no parameter " + name + ".",
                    NearestNames.suggestion(name, parameters, "Declare it under parameters."));
        }
    }

    /** A list of names, each with its place. */
    List<Placed<String>> names(Section section, String key) {
        section.require(key);
        List<Placed<String>> names = new ArrayList<>();
        for (String name : section.texts(key)) {
            names.add(new Placed<>(name, section.placeOfItem(key, names.size())));
        }
        return names;
    }

    /** A name of our own making. */
    Placed<String> stepName(Section section, String key) {
        String name = JobFile.name(section, key, STEP_NAME, "small letters, digits and _");
        return new Placed<>(name, section.placeOfValue(key));
    }

    /** A key that is a name of our own making. */
    void requireName(Section section, String name) {
        if (!STEP_NAME.matcher(name).matches()) {
            add(
                    section.placeOf(name),
                    ProblemCode.NAME_MALFORMED,
                    "The name " + name + " is not made of small letters, digits and _.",
                    "");
        }
    }

    /** A section of formulas by name. */
    List<Assignment> assignments(Section section) {
        List<Assignment> assignments = new ArrayList<>();
        for (String field : section.keys()) {
            section.formula(field)
                    .ifPresent(formula ->
                            assignments.add(new Assignment(new Placed<>(field, section.placeOf(field)), formula)));
        }
        section.done();
        return assignments;
    }

    Optional<Kind> kind(Section section) {
        Optional<String> word = section.requiredText("is");
        Optional<Kind> kind = word.flatMap(Kind::of);
        if (word.isPresent() && kind.isEmpty()) {
            section.problem(
                    "is",
                    ProblemCode.VALUE_WRONG_KIND,
                    "There is no kind " + word.get() + ".",
                    NearestNames.suggestion(
                            word.get(), Kind.words(), "Kinds: " + String.join(", ", Kind.words()) + "."));
        }
        return kind;
    }

    /** One of some words; the one that holds where nothing is said comes first. */
    static String oneOf(Section section, String key, String... words) {
        return oneOf(section, key, words[0], List.of(words));
    }

    static String oneOf(Section section, String key, String otherwise, List<String> words) {
        String word = section.text(key).orElse(otherwise);
        if (!words.contains(word)) {
            section.problem(
                    key,
                    ProblemCode.VALUE_WRONG_KIND,
                    key + " is " + String.join(" or ", words) + ", but " + word + " was found.",
                    NearestNames.suggestion(word, words, ""));
            return otherwise;
        }
        return word;
    }

    /** {@code true} or {@code false}; false where nothing is said. */
    static boolean flag(Section section, String key) {
        return oneOf(section, key, "false", "true").equals("true");
    }
}

package dev.nachlauf.core.system;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What a job says about a format; the rest is detected.
 *
 * @param stated options by name
 * @param fields names of fields that the job declares: they exist even where a sample doesn't show them
 */
public record FormatOptions(Map<String, String> stated, List<String> fields) {
    /** Nothing is said. */
    public static final FormatOptions NONE = new FormatOptions(Map.of(), List.of());

    private static final String TAB = "tab";

    public FormatOptions {
        stated = Map.copyOf(stated);
        fields = List.copyOf(fields);
    }

    /** These options alone. */
    public static FormatOptions of(Map<String, String> stated) {
        return new FormatOptions(stated, List.of());
    }

    /** An option. */
    public Optional<String> text(String name) {
        return Optional.ofNullable(stated.get(name));
    }

    /** A whole number between bounds. */
    public int integer(String name, int otherwise, int least, int most) {
        Optional<String> text = text(name);
        if (text.isEmpty()) {
            return otherwise;
        }
        if (text.get().matches("\\d{1,9}")) {
            int number = Integer.parseInt(text.get());
            if (number >= least && number <= most) {
                return number;
            }
        }
        throw malformed(
                name,
                name + " is a whole number from " + least + " to " + most + ", but " + text.get() + " was found.");
    }

    /** One of some words. */
    public String word(String name, String otherwise, List<String> allowed) {
        String word = text(name).orElse(otherwise);
        if (!allowed.contains(word)) {
            throw malformed(name, name + " is one of " + String.join(", ", allowed) + ", but " + word + " was found.");
        }
        return word;
    }

    /** One character, {@code tab}, or, where that makes sense, {@code none}. */
    public Optional<Character> character(String name) {
        Optional<String> text = text(name);
        if (text.isEmpty()) {
            return Optional.empty();
        }
        if (text.get().equals(TAB) || text.get().equals("\\t")) {
            return Optional.of('\t');
        }
        char first = text.get().isEmpty() ? '\n' : text.get().charAt(0);
        if (text.get().length() != 1 || first == '\n' || first == '\r') {
            throw malformed(name, name + " is one character, but " + text.get() + " was found.");
        }
        return Optional.of(first);
    }

    /** A character as options show it. */
    public static String shown(char character) {
        return character == '\t' ? TAB : String.valueOf(character);
    }

    /** An option that can't be used. */
    public static CannotGoOn malformed(String name, String sentence) {
        return new CannotGoOn(Problem.at(
                new Place.InSetting(name),
                ProblemCode.SETTING_MALFORMED,
                sentence,
                "Correct it, or leave it out and it is detected."));
    }
}

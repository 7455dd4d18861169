package dev.nachlauf.cli;

import dev.nachlauf.core.text.NearestNames;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import picocli.CommandLine;
import picocli.CommandLine.Model.ArgSpec;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;

/** What is wrong with the words of a call, for people rather than for whoever wrote the parser. */
final class WrongWords {
    private WrongWords() {}

    static List<String> of(CommandLine.ParameterException wrong) {
        CommandSpec command = wrong.getCommandLine().getCommandSpec();
        List<String> sentences = new ArrayList<>();
        switch (wrong) {
            case CommandLine.UnmatchedArgumentException unmatched -> unmatched(unmatched, command, sentences);
            case CommandLine.MissingParameterException missing ->
                sentences.add(
                        missing.getMissing().stream().map(WrongWords::name).collect(Collectors.joining(", "))
                                + (missing.getMissing().size() == 1 ? " is missing." : " are missing."));
            case CommandLine.MutuallyExclusiveArgsException exclusive ->
                sentences.add(together(exclusive, command) + " don't go together.");
            default -> sentences.add(value(wrong));
        }
        sentences.add("See: " + command.qualifiedName() + " --help");
        return sentences;
    }

    /** The options that were given, of which only one can be. */
    private static String together(CommandLine.MutuallyExclusiveArgsException wrong, CommandSpec command) {
        String said = String.valueOf(wrong.getMessage());
        return command.argGroups().stream()
                .filter(group -> group.exclusive())
                .map(group -> group.args().stream()
                        .map(WrongWords::name)
                        .filter(said::contains)
                        .toList())
                .filter(given -> given.size() > 1)
                .map(given -> String.join(" and ", given))
                .findFirst()
                .orElse("These options");
    }

    private static void unmatched(
            CommandLine.UnmatchedArgumentException wrong, CommandSpec command, List<String> sentences) {
        String word = wrong.getUnmatched().getFirst();
        List<String> known = new ArrayList<>(command.subcommands().keySet());
        known.addAll(command.optionsMap().keySet());
        if (word.startsWith("-")) {
            sentences.add(command.qualifiedName() + " has no option " + word + ".");
        } else if (command.subcommands().isEmpty()) {
            sentences.add("The word '" + word + "' is one too many.");
        } else {
            sentences.add("There is no " + (command.parent() == null ? "group" : "verb of " + command.name()) + " "
                    + word + ".");
        }
        String suggestion = NearestNames.suggestion(word, known, "");
        if (!suggestion.isEmpty()) {
            sentences.add(suggestion);
        }
    }

    /** A value that is not of its kind; everything else is said as the parser says it. */
    private static String value(CommandLine.ParameterException wrong) {
        ArgSpec argument = wrong.getArgSpec();
        String value = wrong.getValue();
        if (argument == null || value == null) {
            return String.valueOf(wrong.getMessage());
        }
        Class<?> type = argument.auxiliaryTypes().length == 0 ? argument.type() : argument.auxiliaryTypes()[0];
        if (type.isEnum()) {
            String words = Arrays.stream(type.getEnumConstants())
                    .map(constant -> String.valueOf(constant).toLowerCase(Locale.ROOT))
                    .collect(Collectors.joining(", "));
            return name(argument) + " is one of " + words + ", but '" + value + "' was given.";
        }
        if (type == int.class || type == Integer.class || type == long.class || type == Long.class) {
            return name(argument) + " is a whole number, but '" + value + "' was given.";
        }
        return name(argument) + " can't be '" + value + "'.";
    }

    private static String name(ArgSpec argument) {
        return argument instanceof OptionSpec option ? option.longestName() : argument.paramLabel();
    }
}

package dev.nachlauf.cli;

import dev.nachlauf.core.text.NearestNames;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.file.NoSuchFileException;
import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine;

/** What goes wrong, in one or two sentences, and the exit status for it. */
final class Failures {
    private Failures() {}

    static int report(Exception failure, PrintWriter err) {
        switch (failure) {
            case ServiceClient.Refused refused -> {
                refused.problems().forEach(problem -> err.println(problem.rendered()));
                if (refused.problems().isEmpty()) {
                    err.println(refused.getMessage());
                }
                return ExitStatus.REFUSED;
            }
            case ServiceClient.Unreachable unreachable -> {
                err.println(unreachable.getMessage());
                return ExitStatus.UNREACHABLE;
            }
            case UncheckedIOException io
            when io.getCause() instanceof NoSuchFileException missing -> {
                err.println("There is no file " + missing.getFile() + ". Check the path.");
                return ExitStatus.USAGE;
            }
            case UncheckedIOException io -> {
                err.println("A file can't be read or written: " + io.getMessage());
                return ExitStatus.REFUSED;
            }
            default -> {
                err.println("Something unexpected happened in the client: " + failure);
                return ExitStatus.REFUSED;
            }
        }
    }

    static int wrongWords(CommandLine.ParameterException wrong, String[] words, PrintWriter err) {
        CommandLine command = wrong.getCommandLine();
        err.println(wrong.getMessage());
        if (wrong instanceof CommandLine.UnmatchedArgumentException unmatched) {
            List<String> known = new ArrayList<>(command.getSubcommands().keySet());
            known.addAll(command.getCommandSpec().optionsMap().keySet());
            String suggestion = NearestNames.suggestion(unmatched.getUnmatched().getFirst(), known, "");
            if (!suggestion.isEmpty()) {
                err.println(suggestion);
            }
        }
        err.println("See: " + command.getCommandSpec().qualifiedName() + " --help");
        return ExitStatus.USAGE;
    }
}

package dev.nachlauf.cli;

import dev.nachlauf.api.ProblemView;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.file.NoSuchFileException;
import java.util.List;
import java.util.Map;
import picocli.CommandLine;

/** What goes wrong, in one or two sentences for people or as one JSON document for scripts, and the exit status for it. */
final class Failures {
    private final PrintWriter err;
    private final boolean json;

    Failures(PrintWriter err, boolean json) {
        this.err = err;
        this.json = json;
    }

    int report(Exception failure) {
        return switch (failure) {
            case ServiceClient.Refused refused ->
                tell(
                        ExitStatus.REFUSED,
                        refused.problems().isEmpty()
                                ? "refused"
                                : refused.problems().getFirst().code(),
                        refused.problems().isEmpty()
                                ? List.of(String.valueOf(refused.getMessage()))
                                : refused.problems().stream()
                                        .map(ProblemView::rendered)
                                        .toList(),
                        refused.problems());
            case ServiceClient.Unreachable unreachable ->
                tell(ExitStatus.UNREACHABLE, "unreachable", String.valueOf(unreachable.getMessage()));
            case UncheckedIOException io
            when io.getCause() instanceof NoSuchFileException missing ->
                tell(ExitStatus.USAGE, "file-missing", "There is no file " + missing.getFile() + ". Check the path.");
            case UncheckedIOException io ->
                tell(ExitStatus.REFUSED, "file-unusable", "A file can't be read or written: " + io.getMessage());
            default -> tell(ExitStatus.REFUSED, "internal", "Something unexpected happened in the client: " + failure);
        };
    }

    int wrongWords(CommandLine.ParameterException wrong) {
        return tell(ExitStatus.USAGE, "words-wrong", WrongWords.of(wrong), List.of());
    }

    private int tell(int status, String code, String sentence) {
        return tell(status, code, List.of(sentence), List.of());
    }

    private int tell(int status, String code, List<String> sentences, List<ProblemView> problems) {
        if (json) {
            err.println(ServiceClient.JSON.writeValueAsString(Map.of(
                    "code",
                    code,
                    "detail",
                    problems.isEmpty()
                            ? String.join(" ", sentences)
                            : problems.getFirst().sentence(),
                    "problems",
                    problems)));
        } else {
            sentences.forEach(sentence -> err.println(PlainText.forTerminal(sentence)));
        }
        return status;
    }
}

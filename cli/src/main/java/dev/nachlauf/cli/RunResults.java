package dev.nachlauf.cli;

import java.nio.file.Path;
import java.util.Objects;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** The file that a run has read, with what became of each row beside it. */
@Command(
        name = "results",
        description = "Write the file that was read once more, with what became of each row beside it.")
final class RunResults extends RunCommands.OfRun {
    @Option(
            names = "--out",
            paramLabel = "FILE",
            required = true,
            description = "Where to; a name that ends in .xlsx makes any source a workbook.")
    private Optional<Path> out = Optional.empty();

    @Option(names = "--file", paramLabel = "NAME", description = "Which of the files that the run has read.")
    private Optional<String> file = Optional.empty();

    @Option(
            names = "--columns",
            paramLabel = "LIST",
            description = "outcome, message, key, id and run, each perhaps with a head: outcome=Status,message.",
            defaultValue = "outcome,message,id")
    private String columns = "";

    @Override
    public Integer call() {
        Path to = out.orElseThrow();
        String name = String.valueOf(Objects.requireNonNullElse(to.getFileName(), to));
        service()
                .download(
                        path() + "/results?name=" + ServiceClient.encode(name) + "&columns="
                                + ServiceClient.encode(columns)
                                + file.map(one -> "&file=" + ServiceClient.encode(one))
                                        .orElse(""),
                        to);
        output().remark("The results of run " + id() + " are in " + name + ".");
        return ExitStatus.WELL;
    }
}

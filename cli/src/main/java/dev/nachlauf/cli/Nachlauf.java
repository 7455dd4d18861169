package dev.nachlauf.cli;

import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.ScopeType;

/** The client's entry. */
@Command(
        name = "nachlauf",
        mixinStandardHelpOptions = true,
        version = "nachlauf 0.1.0",
        description = "Repeatable loads in which every row is accounted for.",
        synopsisSubcommandLabel = "GROUP VERB",
        subcommands = {
            ConnectionCommands.class,
            SourceCommands.class,
            JobCommands.class,
            CrosswalkCommands.class,
            PiecesCommands.class,
            RunCommands.class,
            RejectCommands.class,
            TokenCommands.class
        })
public final class Nachlauf {
    @Option(
            names = "--server",
            scope = ScopeType.INHERIT,
            paramLabel = "URL",
            description = "The service; else NACHLAUF_SERVER, else the address that ./serve or ./demo left.")
    private Optional<String> server = Optional.empty();

    @Option(
            names = "--output",
            scope = ScopeType.INHERIT,
            paramLabel = "table|json",
            description = "Tables for people, JSON for scripts (lists as JSON Lines).")
    private Output.Form form = Output.Form.TABLE;

    private Nachlauf() {}

    /** Runs one command. */
    public static void main(String[] arguments) {
        System.exit(run(arguments));
    }

    private static int run(String[] arguments) {
        PrintWriter out = new PrintWriter(System.out, true, StandardCharsets.UTF_8);
        PrintWriter err = new PrintWriter(System.err, true, StandardCharsets.UTF_8);
        return new CommandLine(new Nachlauf())
                .setCaseInsensitiveEnumValuesAllowed(true)
                .setOut(out)
                .setErr(err)
                .setExecutionExceptionHandler((failure, command, result) -> Failures.report(failure, err))
                .setParameterExceptionHandler((wrong, words) -> Failures.wrongWords(wrong, words, err))
                .execute(arguments);
    }

    ServiceClient service() {
        return ServiceClient.at(server);
    }

    Output output(CommandLine.Model.CommandSpec spec) {
        return new Output(form, spec.commandLine().getOut(), spec.commandLine().getErr());
    }
}

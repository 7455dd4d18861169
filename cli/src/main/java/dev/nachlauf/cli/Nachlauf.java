package dev.nachlauf.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ScopeType;
import picocli.CommandLine.Spec;

/** The client's entry. */
@Command(
        name = "nachlauf",
        mixinStandardHelpOptions = true,
        version = "nachlauf 0.1.0",
        description = "Repeatable loads in which every row is accounted for.",
        synopsisSubcommandLabel = "GROUP VERB")
public final class Nachlauf implements Runnable {
    @Spec
    @SuppressWarnings("NullAway.Init") // set by picocli
    private CommandSpec spec;

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

    @Option(
            names = "--environment",
            scope = ScopeType.INHERIT,
            paramLabel = "E",
            description = "Where: needed as soon as there is more than one environment.")
    private Optional<String> environment = Optional.empty();

    private final Surroundings around;

    private Nachlauf(Surroundings around) {
        this.around = around;
    }

    /** Runs one command. */
    public static void main(String[] arguments) {
        System.exit(run(Surroundings.ofThisProcess(), arguments));
    }

    /** Runs one command and says how it ended. */
    public static int run(Surroundings around, String... arguments) {
        return commands(around, KnownCommands.by(arguments)).execute(arguments);
    }

    private static CommandLine commands(Surroundings around, KnownCommands known) {
        Nachlauf client = new Nachlauf(around);
        PrintWriter err = around.err();
        CommandLine commands = new CommandLine(client);
        known.addTo(commands);
        return commands.setCaseInsensitiveEnumValuesAllowed(true)
                .registerConverter(Path.class, around::file)
                .setOut(around.out())
                .setErr(err)
                .setExecutionExceptionHandler((failure, command, result) ->
                        new Failures(err, client.form == Output.Form.JSON).report(failure))
                .setParameterExceptionHandler((wrong, words) -> known.mayLack(wrong.getCommandLine())
                        ? commands(around, KnownCommands.ALL).execute(words)
                        : new Failures(err, asksForJson(words)).wrongWords(wrong));
    }

    /** Wrong words may stand before those that say how to print. */
    private static boolean asksForJson(String[] words) {
        List<String> all = List.of(words);
        int option = all.indexOf("--output");
        boolean next =
                option >= 0 && option + 1 < all.size() && all.get(option + 1).equalsIgnoreCase("json");
        return next || all.stream().anyMatch(word -> word.equalsIgnoreCase("--output=json"));
    }

    @Override
    public void run() {
        throw new CommandLine.ParameterException(
                spec.commandLine(),
                "A group is missing: " + String.join(", ", spec.subcommands().keySet()) + ".");
    }

    ServiceClient service() {
        return ServiceClient.at(server, environment, around);
    }

    Surroundings surroundings() {
        return around;
    }

    Output output(CommandSpec spec) {
        return new Output(form, spec.commandLine().getOut(), spec.commandLine().getErr());
    }
}

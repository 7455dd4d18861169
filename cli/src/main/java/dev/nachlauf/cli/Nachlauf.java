package dev.nachlauf.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
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
        synopsisSubcommandLabel = "GROUP VERB")
public final class Nachlauf {
    private static final String COMPLETION = "completion";
    private static final Map<String, Class<?>> GROUPS = groups();

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

    /**
     * Runs one command and says how it ended. Taking all commands apart takes as long as everything else a call does, so
     * only the group that is named is known at first; to tell what is wrong with the words, all are.
     */
    public static int run(Surroundings around, String... arguments) {
        List<String> words = List.of(arguments);
        List<String> named = GROUPS.keySet().stream().filter(words::contains).toList();
        boolean some = named.size() == 1 && !named.contains(COMPLETION);
        return some
                ? commands(around, named).execute(arguments)
                : commands(around, GROUPS.keySet()).execute(arguments);
    }

    private static CommandLine commands(Surroundings around, Collection<String> groups) {
        Nachlauf client = new Nachlauf(around);
        PrintWriter err = around.err();
        CommandLine commands = new CommandLine(client);
        groups.forEach(name -> commands.addSubcommand(name, GROUPS.get(name)));
        return commands.setCaseInsensitiveEnumValuesAllowed(true)
                .registerConverter(Path.class, around::file)
                .setOut(around.out())
                .setErr(err)
                .setExecutionExceptionHandler((failure, command, result) ->
                        new Failures(err, client.form == Output.Form.JSON).report(failure))
                .setParameterExceptionHandler((wrong, words) -> aboutGroups(wrong, groups)
                        ? commands(around, GROUPS.keySet()).execute(words)
                        : new Failures(err, asksForJson(words)).wrongWords(wrong));
    }

    /** Nothing has been done then: there was no verb. */
    private static boolean aboutGroups(CommandLine.ParameterException wrong, Collection<String> known) {
        return wrong.getCommandLine().getParent() == null && known.size() < GROUPS.size();
    }

    /** In the order of the help. */
    private static Map<String, Class<?>> groups() {
        Map<String, Class<?>> groups = new LinkedHashMap<>();
        groups.put("connection", ConnectionCommands.class);
        groups.put("source", SourceCommands.class);
        groups.put("job", JobCommands.class);
        groups.put("crosswalk", CrosswalkCommands.class);
        groups.put("pieces", PiecesCommands.class);
        groups.put("run", RunCommands.class);
        groups.put("record", RecordCommands.class);
        groups.put("rejects", RejectCommands.class);
        groups.put("environment", EnvironmentCommands.class);
        groups.put("token", TokenCommands.class);
        groups.put("secret", SecretCommands.class);
        groups.put(COMPLETION, CompletionCommand.class);
        return Collections.unmodifiableMap(groups);
    }

    /** Wrong words may stand before those that say how to print. */
    private static boolean asksForJson(String[] words) {
        List<String> all = List.of(words);
        int option = all.indexOf("--output");
        boolean next =
                option >= 0 && option + 1 < all.size() && all.get(option + 1).equalsIgnoreCase("json");
        return next || all.stream().anyMatch(word -> word.equalsIgnoreCase("--output=json"));
    }

    ServiceClient service() {
        return ServiceClient.at(server, environment, around);
    }

    Surroundings surroundings() {
        return around;
    }

    Output output(CommandLine.Model.CommandSpec spec) {
        return new Output(form, spec.commandLine().getOut(), spec.commandLine().getErr());
    }
}

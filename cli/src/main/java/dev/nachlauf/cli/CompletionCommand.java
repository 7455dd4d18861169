package dev.nachlauf.cli;

import java.util.Locale;
import picocli.AutoComplete;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** The words that a shell offers when the tabulator is pressed. */
@Command(
        description = {
            "Print what a shell needs to complete groups, verbs and options.",
            "bash, zsh: source <(nachlauf completion bash)",
            "fish: nachlauf completion fish | source"
        })
final class CompletionCommand extends Verb {
    private static final String CLIENT = "nachlauf";

    /** The shells. */
    enum Shell {
        BASH,
        ZSH,
        FISH
    }

    @Spec
    @SuppressWarnings("NullAway.Init") // set by picocli
    private CommandSpec spec;

    @Parameters(paramLabel = "bash|zsh|fish")
    private Shell shell = Shell.BASH;

    @Override
    public Integer call() {
        output().text(
                        switch (shell) {
                            case BASH, ZSH ->
                                AutoComplete.bash(CLIENT, spec.root().commandLine());
                            case FISH -> fish(spec.root());
                        });
        return ExitStatus.WELL;
    }

    private static String fish(CommandSpec client) {
        StringBuilder script = new StringBuilder("complete -c " + CLIENT + " -f\n");
        String groups = String.join(" ", client.subcommands().keySet());
        client.subcommands()
                .forEach((name, group) ->
                        offer(script, "not __fish_seen_subcommand_from " + groups, "-a " + name, description(group)));
        client.subcommands().forEach((name, group) -> {
            String verbs = String.join(" ", group.getSubcommands().keySet());
            String inGroup = "__fish_seen_subcommand_from " + name;
            group.getSubcommands().forEach((verb, command) -> {
                offer(
                        script,
                        inGroup + "; and not __fish_seen_subcommand_from " + verbs,
                        "-a " + verb,
                        description(command));
                for (OptionSpec option : command.getCommandSpec().options()) {
                    if (!option.hidden()) {
                        offer(
                                script,
                                inGroup + "; and __fish_seen_subcommand_from " + verb,
                                "-l " + option.longestName().substring(2)
                                        + (option.arity().max() > 0 ? " -r -F" : ""),
                                String.join(" ", option.description()));
                    }
                }
            });
        });
        return script.toString();
    }

    private static void offer(StringBuilder script, String where, String what, String description) {
        script.append("complete -c " + CLIENT + " -n '")
                .append(where)
                .append("' ")
                .append(what)
                .append(" -d '")
                .append(description.replace("\\", "\\\\").replace("'", "\\'"))
                .append("'\n");
    }

    private static String description(CommandLine command) {
        String[] lines = command.getCommandSpec().usageMessage().description();
        return lines.length == 0 ? command.getCommandName().toLowerCase(Locale.ROOT) : lines[0];
    }
}

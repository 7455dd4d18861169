package dev.nachlauf.cli;

import java.util.List;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

/** A group of commands; called alone it says which verbs it has. */
@Command(mixinStandardHelpOptions = true)
abstract class Group implements Runnable {
    @Spec
    @SuppressWarnings("NullAway.Init") // set by picocli
    private CommandSpec spec;

    /** Its verbs, in the order of its help. */
    abstract List<Class<? extends Verb>> verbs();

    @Override
    public void run() {
        throw new CommandLine.ParameterException(
                spec.commandLine(),
                "A verb is missing: " + String.join(", ", spec.subcommands().keySet()) + ".");
    }
}

package dev.nachlauf.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** What all commands have in common: the way to the service and to the output. */
@Command(mixinStandardHelpOptions = true)
abstract class Verb implements Callable<Integer> {
    @Spec
    @SuppressWarnings("NullAway.Init") // set by picocli
    private CommandSpec spec;

    private Nachlauf client() {
        return (Nachlauf) spec.root().userObject();
    }

    ServiceClient service() {
        return client().service();
    }

    Surroundings surroundings() {
        return client().surroundings();
    }

    /** Stays with a run until it has ended or is held. */
    int follow(long run) {
        return new Following(service(), surroundings().terminalLine()).follow(output(), run);
    }

    /** The words of a call don't go together. */
    ParameterException misuse(String what) {
        return new ParameterException(spec.commandLine(), what);
    }

    Output output() {
        return client().output(spec);
    }
}

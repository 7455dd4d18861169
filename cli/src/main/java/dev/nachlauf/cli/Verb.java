package dev.nachlauf.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
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

    Output output() {
        return client().output(spec);
    }
}

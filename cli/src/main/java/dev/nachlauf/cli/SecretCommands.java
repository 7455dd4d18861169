package dev.nachlauf.cli;

import dev.nachlauf.api.SecretBindingView;
import dev.nachlauf.cli.Output.Column;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** Secrets: which host gets which. */
@Command(description = "Secrets of connections: each goes only to the host it was first used with.")
final class SecretCommands extends Group {
    @Override
    List<Class<? extends Verb>> verbs() {
        return List.of(All.class, Unbind.class);
    }

    @Command(name = "list", description = "The secrets that were used, and the host that each belongs to.")
    static final class All extends Verb {
        @Override
        public Integer call() {
            output().list(
                            service().list("/secrets", SecretBindingView.class, Integer.MAX_VALUE),
                            "No connection has used a secret yet.",
                            List.of(
                                    Column.text("secret", SecretBindingView::reference),
                                    Column.text("host", SecretBindingView::host),
                                    Column.text("first used by", SecretBindingView::connection),
                                    Column.text("first used", bound -> Output.minute(bound.boundAt()))));
            return ExitStatus.WELL;
        }
    }

    @Command(
            name = "unbind",
            description = "Let a secret go to another host: the next connection that uses it binds it again.")
    static final class Unbind extends Verb {
        @Parameters(
                paramLabel = "REFERENCE",
                description = "As secret list shows it, such as env:NACHLAUF_SECRET_REGISTER.")
        private String reference = "";

        @Override
        public Integer call() {
            output().one(
                            service()
                                    .post(
                                            "/secrets/" + ServiceClient.encode(reference) + "/unbind",
                                            SecretBindingView.class),
                            freed -> List.of("The secret " + freed.reference() + " may go to another host than "
                                    + freed.host() + " now; its next use binds it again."));
            return ExitStatus.WELL;
        }
    }
}

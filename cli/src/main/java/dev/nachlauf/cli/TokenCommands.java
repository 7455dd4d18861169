package dev.nachlauf.cli;

import dev.nachlauf.api.MadeToken;
import dev.nachlauf.api.MakeToken;
import dev.nachlauf.api.SessionLink;
import dev.nachlauf.api.TokenView;
import dev.nachlauf.cli.Output.Column;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Tokens: who may call the service, and what they may do. */
@Command(description = "Tokens: who may call the service, and what they may do.")
final class TokenCommands extends Group {
    private static final int ALL = 100_000;

    @Override
    List<Class<? extends Verb>> verbs() {
        return List.of(All.class, Save.class, Retire.class, Link.class);
    }

    @Command(name = "list", description = "All tokens, with their last use.")
    static final class All extends Verb {
        @Override
        public Integer call() {
            output().list(
                            service().list("/tokens", TokenView.class, ALL),
                            "There are no tokens.",
                            List.of(
                                    Column.text("token", TokenView::name),
                                    Column.text("role", TokenView::role),
                                    Column.text("sees sensitive", token -> token.seesSensitive() ? "yes" : ""),
                                    Column.text("made", token -> Output.day(token.madeAt())),
                                    Column.text("by", TokenView::madeBy),
                                    Column.text("last used", token -> Output.minute(token.lastUsedAt())),
                                    Column.text("retired", token -> Output.minute(token.retiredAt()))));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "save", description = "Make a token. Its secret is shown once and kept nowhere.")
    static final class Save extends Verb {
        @Parameters(paramLabel = "NAME", description = "Records say by this name who did what.")
        private String name = "";

        @Option(
                names = "--role",
                required = true,
                paramLabel = "look|run|build|administer",
                description = "What its holder may do; each role may do all that the ones before it may.")
        private String role = "";

        @Option(names = "--sees-sensitive", description = "Show its holder the values of sensitive fields.")
        private boolean seesSensitive;

        @Override
        public Integer call() {
            MadeToken made = service().post("/tokens", new MakeToken(name, role, seesSensitive), MadeToken.class);
            output().one(made, token -> List.of(token.secret()));
            if (!output().json()) {
                output().remark("The token " + name + " may " + role
                        + (seesSensitive ? ", and sees sensitive values" : "")
                        + ". Keep its secret now: it isn't shown again. A client takes it from NACHLAUF_TOKEN.");
            }
            return ExitStatus.WELL;
        }
    }

    @Command(name = "retire", description = "End a token, and every session of a browser that stands for it.")
    static final class Retire extends Verb {
        @Parameters(paramLabel = "NAME")
        private String name = "";

        @Override
        public Integer call() {
            output().one(
                            service().post("/tokens/" + ServiceClient.encode(name) + "/retire", TokenView.class),
                            token -> List.of("The token " + token.name() + " is retired."));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "link", description = "Make a link that opens the console once, as whoever makes it.")
    static final class Link extends Verb {
        @Override
        public Integer call() {
            SessionLink link = service().post("/session/links", SessionLink.class);
            output().one(link, made -> List.of(service().server() + made.path()));
            return ExitStatus.WELL;
        }
    }
}

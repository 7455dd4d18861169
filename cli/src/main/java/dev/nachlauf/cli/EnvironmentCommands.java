package dev.nachlauf.cli;

import dev.nachlauf.api.EnvironmentView;
import dev.nachlauf.cli.Output.Column;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** Environments: where jobs run, and the values in which that differs. */
@Command(description = "Environments: where jobs run, and the values in which that differs.")
final class EnvironmentCommands extends Group {
    private static final int ALL = 100_000;

    @Override
    List<Class<? extends Verb>> verbs() {
        return List.of(Save.class, All.class, Show.class, Retire.class);
    }

    @Command(name = "save", description = "Keep environments from files.")
    static final class Save extends SaveDocuments<EnvironmentView> {
        Save() {
            super(
                    "/environments",
                    EnvironmentView.class,
                    view -> List.of("saved " + view.name() + (view.live() ? " (live)" : "")));
        }
    }

    @Command(name = "list", description = "All environments.")
    static final class All extends Verb {
        @Override
        public Integer call() {
            output().list(
                            service().list("/environments", EnvironmentView.class, ALL),
                            "There are no environments, so everything runs in one place. Save one with:"
                                    + " nachlauf environment save FILE",
                            List.of(
                                    Column.text("environment", EnvironmentView::name),
                                    Column.text("", view -> view.live() ? "live" : ""),
                                    Column.text("values", view -> String.join(" ", view.values())),
                                    Column.text("title", EnvironmentView::title),
                                    Column.text("saved by", EnvironmentView::savedBy)));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "show", description = "One environment, as it was written.")
    static final class Show extends ShowDocument<EnvironmentView> {
        Show() {
            super("/environments", EnvironmentView.class, EnvironmentView::document);
        }
    }

    @Command(name = "retire", description = "Take an environment away; what ran there stays as it is.")
    static final class Retire extends Verb {
        @Parameters(paramLabel = "NAME")
        private String name = "";

        @Override
        public Integer call() {
            output().one(
                            service()
                                    .post(
                                            "/environments/" + ServiceClient.encode(name) + "/retire",
                                            EnvironmentView.class),
                            view -> List.of("the environment " + view.name() + " is retired"));
            return ExitStatus.WELL;
        }
    }
}

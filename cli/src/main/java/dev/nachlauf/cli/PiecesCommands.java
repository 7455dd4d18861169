package dev.nachlauf.cli;

import dev.nachlauf.api.PiecesView;
import dev.nachlauf.api.SharedChange;
import dev.nachlauf.cli.Output.Column;
import java.util.List;
import picocli.CommandLine.Command;

/** Pieces: formulas and steps that several jobs use. */
@Command(description = "Pieces: formulas and steps that several jobs use.")
final class PiecesCommands extends Group {
    private static final int ALL = 100_000;

    @Override
    List<Class<? extends Verb>> verbs() {
        return List.of(Save.class, All.class, Show.class);
    }

    @Command(name = "save", description = "Check and keep pieces; says which jobs the change touches.")
    static final class Save extends SaveDocuments<SharedChange> {
        Save() {
            super("/pieces", SharedChange.class, saved -> SharedText.lines("pieces", saved));
        }
    }

    @Command(name = "list", description = "All documents of pieces.")
    static final class All extends Verb {
        @Override
        public Integer call() {
            output().list(
                            service().list("/pieces", PiecesView.class, ALL),
                            "No pieces are saved yet. Save some with: nachlauf pieces save FILE",
                            List.of(
                                    Column.text("pieces", PiecesView::name),
                                    Column.number("version", PiecesView::version),
                                    Column.text("formulas", pieces -> String.join(" ", pieces.formulas())),
                                    Column.text("steps", pieces -> String.join(" ", pieces.steps())),
                                    Column.text("title", PiecesView::title)));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "show", description = "A document of pieces as it was written.")
    static final class Show extends ShowDocument<PiecesView> {
        Show() {
            super("/pieces", PiecesView.class, PiecesView::document);
        }
    }
}

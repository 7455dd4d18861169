package dev.nachlauf.cli;

import dev.nachlauf.api.TranslationView;
import dev.nachlauf.api.WhyView;
import dev.nachlauf.api.WhyView.Link;
import dev.nachlauf.cli.Output.Column;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** The way of a value, from the record back to the cells of the source. */
@Command(name = "why", description = "Why a field holds what it holds: back through map and steps to the cell.")
final class RecordWhy extends RecordCommands.OfType {
    @Mixin
    private RecordCommands.Key key = new RecordCommands.Key();

    @Option(names = "--field", paramLabel = "f", required = true, description = "The field of the record.")
    private String field = "";

    @Override
    public Integer call() {
        WhyView why =
                service().get(path("why") + "?" + key.query() + "&field=" + ServiceClient.encode(field), WhyView.class);
        output().one(why, RecordWhy::lines);
        return ExitStatus.WELL;
    }

    /** A line of the tree: what is there, and where it comes from. */
    private record Line(String what, String how) {}

    private static List<String> lines(WhyView why) {
        List<String> lines = new ArrayList<>();
        lines.add("written by run " + why.run() + " of " + why.job() + " version " + why.jobVersion() + ", by "
                + why.by());
        lines.add("from " + why.place());
        lines.add("");
        List<Line> tree = new ArrayList<>();
        add(why.way(), "", tree);
        lines.addAll(Output.table(
                tree, List.of(Column.text(why.field(), Line::what), Column.text("where from", Line::how))));
        if (!why.same()) {
            lines.add(
                    "The ledger says that " + shown(why.written())
                            + " was written. What the job asks elsewhere has changed since, or the target has changed the value.");
        }
        lines.addAll(why.notes());
        return lines;
    }

    private static void add(Link link, String indent, List<Line> tree) {
        tree.add(new Line(indent + link.name() + " = " + shown(link.value()), how(link)));
        for (TranslationView one : link.translated()) {
            tree.add(new Line(
                    indent + "  '" + one.value() + "' → '" + one.translation() + "'",
                    "crosswalk " + one.crosswalk() + " version " + one.version()
                            + (one.line() == null ? "" : ", line " + one.line())
                            + (one.entry().equals(one.value()) ? "" : ": " + one.kind() + " " + one.entry())));
        }
        link.from().forEach(from -> add(from, indent + "  ", tree));
    }

    private static String how(Link link) {
        return switch (link.kind()) {
            case "map" -> "map: " + link.how();
            case "set" -> "set: " + link.how();
            case "lookup" -> "lookup: " + link.how();
            case "cell" -> link.place();
            case "fact" -> "a fact of the row";
            default -> link.how();
        };
    }

    private static String shown(@Nullable String value) {
        return value == null ? "(empty)" : value;
    }
}

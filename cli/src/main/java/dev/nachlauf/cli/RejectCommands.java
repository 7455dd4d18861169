package dev.nachlauf.cli;

import de.siegmar.fastcsv.writer.CsvWriter;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RejectGroup;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.cli.Output.Column;
import dev.nachlauf.core.text.SpreadsheetText;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** Rejected rows, with their reasons. */
@Command(description = "Rejected rows: their reasons, corrections, and their second way.")
final class RejectCommands extends Group {
    private static final int ALL = Integer.MAX_VALUE;

    @Override
    List<Class<? extends Verb>> verbs() {
        return List.of(
                All.class,
                Export.class,
                RejectDecisions.Fix.class,
                RejectDecisions.Resubmit.class,
                RejectDecisions.SetAside.class,
                RejectProposals.class);
    }

    @Command(name = "list", description = "Rejects with place and reason.")
    static final class All extends Verb {
        @Option(names = "--run", paramLabel = "ID", description = "Of one run only.")
        private Optional<Long> run = Optional.empty();

        @Option(names = "--job", paramLabel = "J", description = "Of one job only.")
        private Optional<String> job = Optional.empty();

        @Option(names = "--closed", description = "Also those whose rows have gone through since.")
        private boolean closed;

        @Option(
                names = "--by",
                paramLabel = "code|field|value",
                description = "How many rows have which reason, and nothing else.")
        private Optional<String> by = Optional.empty();

        @Option(names = "--limit", paramLabel = "N", description = "Show at most N.", defaultValue = "100")
        private int limit;

        @Override
        public Integer call() {
            String whose = run.map(id -> "&run=" + id)
                    .or(() -> job.map(name -> "&job=" + ServiceClient.encode(name)))
                    .orElse("");
            if (by.isPresent()) {
                return groups("/rejects/groups?by=" + ServiceClient.encode(by.get()) + whose);
            }
            String path = "/rejects?closed=" + closed + whose;
            List<RejectView> rejects = service().list(path, RejectView.class, limit);
            if (output().json()) {
                output().list(rejects, "", List.of());
                return ExitStatus.WELL;
            }
            output().list(
                            bySourceRow(rejects),
                            "There are no rejects.",
                            List.of(
                                    Column.number(
                                            "reject", made -> made.getFirst().id()),
                                    Column.number("run", made -> made.getFirst().run()),
                                    Column.place("row", made -> made.getFirst().row()),
                                    Column.text("place", made -> made.getFirst().place()),
                                    Column.text("key", All::keys),
                                    Column.text("state", made -> state(made.getFirst())),
                                    Column.text("reason", made -> reasons(made, " "))));
            return ExitStatus.WELL;
        }

        private int groups(String path) {
            output().list(
                            service().list(path, RejectGroup.class, limit),
                            "There are no rejects.",
                            List.of(
                                    Column.number("rows", RejectGroup::count),
                                    Column.text("code", RejectGroup::code),
                                    Column.<RejectGroup>text("field", RejectGroup::field)
                                            .unlessEmpty(),
                                    Column.<RejectGroup>text("value", RejectGroup::value)
                                            .unlessEmpty(),
                                    Column.<RejectGroup>text("by", group -> group.byTarget() ? "the target" : "")
                                            .unlessEmpty()));
            return ExitStatus.WELL;
        }

        /** Steps make several rows of one of the source: its rejects follow each other, and are one line. */
        private static List<List<RejectView>> bySourceRow(List<RejectView> rejects) {
            List<List<RejectView>> rows = new ArrayList<>();
            for (RejectView reject : rejects) {
                RejectView last = rows.isEmpty() ? null : rows.getLast().getFirst();
                if (last == null || last.run() != reject.run() || last.row() != reject.row() || reject.row() == 0) {
                    rows.add(new ArrayList<>());
                }
                rows.getLast().add(reject);
            }
            return rows;
        }

        private static String state(RejectView reject) {
            if (reject.sentBy() != null) {
                return "sent again by run " + reject.sentBy();
            }
            return switch (reject.state()) {
                case "closed" -> "closed by run " + reject.closedBy();
                case "set-aside" -> "set aside: " + reject.note();
                case "open" ->
                    (reject.attempts() == 1 ? "open" : "open, rejected " + reject.attempts() + " times")
                            + (reject.corrections().isEmpty() ? "" : ", corrected");
                default -> reject.state();
            };
        }

        private static String keys(List<RejectView> made) {
            List<String> keys = made.stream().map(RejectView::key).distinct().toList();
            return keys.getFirst() + (keys.size() == 1 ? "" : " and " + (keys.size() - 1) + " more");
        }
    }

    /** What is wrong with all that was made of a row, each thing once. */
    private static String reasons(List<RejectView> made, String between) {
        return made.stream()
                .flatMap(reject -> reject.problems().stream())
                .map(problem -> (problem.field() == null ? "" : problem.field() + ": ") + problem.sentence() + " ["
                        + problem.code() + "]")
                .distinct()
                .collect(Collectors.joining(between, made.getFirst().byTarget() ? "the target says: " : "", ""));
    }

    @Command(
            name = "export",
            description = "Write the rejects of a run into a file: a workbook to mend them in, or a delimited one.")
    static final class Export extends Verb {
        @Option(names = "--run", paramLabel = "ID", required = true)
        private long run;

        @Option(
                names = "--out",
                paramLabel = "FILE",
                required = true,
                description =
                        "Where to; a name that ends in .xlsx makes it a workbook that rejects resubmit takes back.")
        private Optional<Path> out = Optional.empty();

        @Option(
                names = "--as-is",
                description = "Write cells that a spreadsheet would take for formulas without an apostrophe in front.")
        private boolean asIs;

        @Override
        public Integer call() {
            Path file = out.orElseThrow();
            if (file.toString().toLowerCase(Locale.ROOT).endsWith(".xlsx")) {
                service().download("/rejects/sheet?run=" + run, file);
                output().remark("The rejects of run " + run + " are in " + file.getFileName()
                        + ". Mend them there, and send it back with rejects resubmit --run " + run + " --file.");
                return ExitStatus.WELL;
            }
            List<RejectView> rejects = service().list("/rejects?run=" + run, RejectView.class, ALL);
            try (CsvWriter csv = CsvWriter.builder().build(file)) {
                for (RejectView reject : rejects) {
                    if (reject == rejects.getFirst()) {
                        List<String> head = new ArrayList<>(List.of("row", "place", "codes", "reasons"));
                        head.addAll(reject.header());
                        csv.writeRecord(shown(head));
                    }
                    csv.writeRecord(shown(cells(reject)));
                }
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
            output().remark(rejects.size() + " rejects written to " + file);
            return ExitStatus.WELL;
        }

        private List<String> shown(List<String> cells) {
            return asIs ? cells : cells.stream().map(SpreadsheetText::guarded).toList();
        }

        private static List<String> cells(RejectView reject) {
            List<String> cells = new ArrayList<>();
            cells.add(String.valueOf(reject.row()));
            cells.add(reject.place());
            cells.add(reject.problems().stream().map(ProblemView::code).collect(Collectors.joining(" ")));
            cells.add(reasons(List.of(reject), "\n"));
            reject.raw().forEach(cell -> cells.add(Objects.requireNonNullElse(cell, "")));
            return cells;
        }
    }
}

package dev.nachlauf.cli;

import dev.nachlauf.api.LedgerRowView.FieldChange;
import dev.nachlauf.api.RecordHistoryView;
import dev.nachlauf.cli.Output.Column;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Records of the systems that connections lead to. */
@Command(
        name = "record",
        description = "Records of the systems that connections lead to.",
        subcommands = RecordCommands.History.class)
final class RecordCommands extends Group {
    private static final int MOST = 1_000;

    @Command(name = "history", description = "Which runs have changed a record, and how, newest first.")
    static final class History extends Verb {
        @Parameters(index = "0", paramLabel = "CONNECTION")
        private String connection = "";

        @Parameters(index = "1", paramLabel = "RECORDS")
        private String records = "";

        @Option(
                names = "--key",
                paramLabel = "k=v",
                required = true,
                description = "A field of the record's key; repeated where it has several.")
        private Map<String, String> key = Map.of();

        @Override
        public Integer call() {
            String parts = key.entrySet().stream()
                    .map(part -> "key=" + ServiceClient.encode(part.getKey() + "=" + part.getValue()))
                    .collect(Collectors.joining("&"));
            String path = "/connections/" + ServiceClient.encode(connection) + "/records/"
                    + ServiceClient.encode(records) + "/history?" + parts + "&limit=" + MOST;
            RecordHistoryView history = service().get(path, RecordHistoryView.class);
            output().list(
                            history.items(),
                            "No run has changed this record.",
                            List.of(
                                    Column.number("run", RecordHistoryView.Change::run),
                                    Column.text("when", change -> Output.minute(change.at())),
                                    Column.text("job", RecordCommands::job),
                                    Column.text("by", RecordHistoryView.Change::by),
                                    Column.text("outcome", RecordHistoryView.Change::outcome),
                                    Column.text("row", change -> change.source() + " row " + change.row()),
                                    Column.text("changes", RecordCommands::changes)));
            if (!history.note().isEmpty()) {
                output().remark(history.note());
            }
            return ExitStatus.WELL;
        }
    }

    private static String job(RecordHistoryView.Change change) {
        return change.undoes() == null ? change.job() : "undo of run " + change.undoes();
    }

    private static String changes(RecordHistoryView.Change change) {
        List<String> parts = new ArrayList<>();
        for (FieldChange field : change.changes()) {
            parts.add(
                    switch (change.outcome()) {
                        case "inserted" -> field.field() + " " + field.after();
                        case "deleted" -> field.field() + " " + field.before();
                        default ->
                            field.field() + " " + Objects.requireNonNullElse(field.before(), "(empty)") + " → "
                                    + Objects.requireNonNullElse(field.after(), "(empty)");
                    });
        }
        return String.join(", ", parts);
    }
}

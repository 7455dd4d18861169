package dev.nachlauf.cli;

import dev.nachlauf.api.CountedRecords;
import dev.nachlauf.api.FoundRecords;
import dev.nachlauf.api.LedgerRowView.FieldChange;
import dev.nachlauf.api.RecordHistoryView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.SetRecord;
import dev.nachlauf.cli.Output.Column;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Records of the systems that connections lead to. */
@Command(description = "Records of the systems that connections lead to.")
final class RecordCommands extends Group {
    private static final int MOST = 1_000;

    @Override
    List<Class<? extends Verb>> verbs() {
        return List.of(Find.class, Count.class, Set.class, History.class, RecordWhy.class);
    }

    /** A command about the records of one type. */
    abstract static class OfType extends Verb {
        @Parameters(index = "0", paramLabel = "CONNECTION")
        private String connection = "";

        @Parameters(index = "1", paramLabel = "RECORDS")
        private String records = "";

        String path(String verb) {
            return "/connections/" + ServiceClient.encode(connection) + "/records/" + ServiceClient.encode(records)
                    + "/" + verb;
        }
    }

    private static String list(String name, List<String> values) {
        return values.isEmpty()
                ? ""
                : "&" + name + "=" + values.stream().map(ServiceClient::encode).collect(Collectors.joining(","));
    }

    /** Which records are meant. */
    static final class Filter {
        @Option(names = "--where", paramLabel = "F", description = "A formula over the fields; all without it.")
        private Optional<String> where = Optional.empty();

        String query() {
            return where.map(text -> "&where=" + ServiceClient.encode(text)).orElse("");
        }
    }

    /** Which record is meant. */
    static final class Key {
        @Option(
                names = "--key",
                paramLabel = "k=v",
                required = true,
                description = "A field of the record's key; repeated where it has several.")
        private Map<String, String> parts = Map.of();

        /** As the service takes it. */
        String query() {
            return parts.entrySet().stream()
                    .map(part -> "key=" + ServiceClient.encode(part.getKey() + "=" + part.getValue()))
                    .collect(Collectors.joining("&"));
        }
    }

    @Command(name = "find", description = "Records that meet a formula, as they are now.")
    static final class Find extends OfType {
        @Mixin
        private Filter filter = new Filter();

        @Option(names = "--fields", paramLabel = "a,b", split = ",", description = "Show these fields only.")
        private List<String> fields = List.of();

        @Option(
                names = "--sort",
                paramLabel = "a",
                split = ",",
                description = "Put them in the order of these fields; \"a desc\" has the greatest first.")
        private List<String> sort = List.of();

        @Option(names = "--limit", paramLabel = "N", description = "Show at most N, up to 1000.", defaultValue = "20")
        private int limit;

        @Override
        public Integer call() {
            String path =
                    path("found") + "?limit=" + limit + filter.query() + list("fields", fields) + list("sort", sort);
            FoundRecords found = service().get(path, FoundRecords.class);
            if (output().json()) {
                output().list(
                                found.records().stream()
                                        .map(record -> named(found.fields(), record))
                                        .toList(),
                                "",
                                List.of());
            } else {
                List<Column<List<@Nullable String>>> columns = new ArrayList<>();
                for (int i = 0; i < found.fields().size(); i++) {
                    int place = i;
                    columns.add(Column.text(
                            found.fields().get(i), record -> Objects.requireNonNullElse(record.get(place), "")));
                }
                output().list(found.records(), "There are no such records.", columns);
            }
            if (found.more()) {
                output().remark("There are more; --limit shows up to 1000 of them.");
            }
            if (!found.note().isEmpty()) {
                output().remark(found.note());
            }
            return ExitStatus.WELL;
        }

        private static Map<String, @Nullable String> named(List<String> fields, List<@Nullable String> values) {
            Map<String, @Nullable String> record = new LinkedHashMap<>();
            for (int i = 0; i < fields.size(); i++) {
                record.put(fields.get(i), values.get(i));
            }
            return record;
        }
    }

    @Command(name = "count", description = "How many records meet a formula.")
    static final class Count extends OfType {
        @Mixin
        private Filter filter = new Filter();

        @Option(names = "--by", paramLabel = "a,b", split = ",", description = "Count by the values of these fields.")
        private List<String> by = List.of();

        @Override
        public Integer call() {
            String asked = filter.query() + list("by", by);
            CountedRecords counted = service()
                    .get(path("count") + (asked.isEmpty() ? "" : "?" + asked.substring(1)), CountedRecords.class);
            if (by.isEmpty() || output().json()) {
                output().one(counted, shown -> List.of(Output.number(shown.count())));
            } else {
                List<Column<CountedRecords.Group>> columns = new ArrayList<>();
                for (int i = 0; i < by.size(); i++) {
                    int place = i;
                    columns.add(Column.text(
                            by.get(i),
                            group -> Objects.requireNonNullElse(group.values().get(place), "")));
                }
                columns.add(Column.number("count", CountedRecords.Group::count));
                output().list(counted.groups(), "There are no such records.", columns);
            }
            if (!counted.note().isEmpty()) {
                output().remark(counted.note());
            }
            return ExitStatus.WELL;
        }
    }

    @Command(name = "set", description = "Create or correct one record, by a run like any other.")
    static final class Set extends OfType {
        @Mixin
        private Key key = new Key();

        @Option(
                names = "--set",
                paramLabel = "f=v",
                required = true,
                description = "What a field becomes; an empty value clears it. May be repeated.")
        private Map<String, String> values = Map.of();

        @Override
        public Integer call() {
            return follow(service()
                    .post(path("set"), new SetRecord(key.parts, values), RunView.class)
                    .id());
        }
    }

    @Command(name = "history", description = "Which runs have changed a record, and how, newest first.")
    static final class History extends OfType {
        @Mixin
        private Key key = new Key();

        @Override
        public Integer call() {
            String path = path("history") + "?" + key.query() + "&limit=" + MOST;
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

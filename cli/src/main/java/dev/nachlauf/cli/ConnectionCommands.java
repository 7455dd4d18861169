package dev.nachlauf.cli;

import dev.nachlauf.api.ConnectionTest;
import dev.nachlauf.api.ConnectionView;
import dev.nachlauf.api.FieldView;
import dev.nachlauf.api.FoundFileView;
import dev.nachlauf.api.ProfileRecords;
import dev.nachlauf.api.ProfileView;
import dev.nachlauf.api.RecordTypeView;
import dev.nachlauf.api.RecordsView;
import dev.nachlauf.cli.Output.Column;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Systems: how to reach them, and what they hold. */
@Command(description = "Systems: how to reach them, and what they hold.")
final class ConnectionCommands extends Group {
    private static final int ALL = 100_000;

    @Override
    List<Class<? extends Verb>> verbs() {
        return List.of(
                Save.class,
                All.class,
                Show.class,
                Test.class,
                Records.class,
                Fields.class,
                FilesOf.class,
                Profile.class);
    }

    @Command(name = "save", description = "Keep connections from files.")
    static final class Save extends SaveDocuments<ConnectionView> {
        Save() {
            super(
                    "/connections",
                    ConnectionView.class,
                    view -> List.of("saved " + view.name() + " (" + view.type() + ")"));
        }
    }

    @Command(name = "list", description = "All connections.")
    static final class All extends Verb {
        @Override
        public Integer call() {
            output().list(
                            service().list("/connections", ConnectionView.class, ALL),
                            "No connection is saved yet. Save one with: nachlauf connection save FILE",
                            List.of(
                                    Column.text("name", ConnectionView::name),
                                    Column.text("type", ConnectionView::type),
                                    Column.text("title", ConnectionView::title),
                                    Column.text("saved by", ConnectionView::savedBy)));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "show", description = "One connection, as it was written.")
    static final class Show extends ShowDocument<ConnectionView> {
        Show() {
            super("/connections", ConnectionView.class, ConnectionView::document);
        }
    }

    @Command(name = "test", description = "Reach a system, and say as whom.")
    static final class Test extends Verb {
        @Parameters(paramLabel = "NAME")
        private String name = "";

        @Override
        public Integer call() {
            ConnectionTest test =
                    service().post("/connections/" + ServiceClient.encode(name) + "/test", ConnectionTest.class);
            output().one(test, ConnectionCommands::lines);
            return test.reachable() ? ExitStatus.WELL : ExitStatus.REFUSED;
        }
    }

    private static List<String> lines(ConnectionTest test) {
        if (!test.reachable()) {
            return test.problems().stream().map(problem -> problem.rendered()).toList();
        }
        String account = test.signedInAs().isEmpty() ? "" : ", signed in as " + test.signedInAs();
        String reading = test.canRead() ? ", can read" : "";
        return List.of("reachable: " + test.system() + account + reading + writing(test.canWrite()));
    }

    /** Of places for files, and of those that tell people, only a delivery shows whether they take it. */
    private static String writing(@Nullable Boolean can) {
        return can == null ? "" : can ? ", can write" : ", can't write";
    }

    @Command(name = "records", description = "The record types that a system holds.")
    static final class Records extends Verb {
        @Parameters(paramLabel = "NAME")
        private String name = "";

        @Override
        public Integer call() {
            output().list(
                            service()
                                    .list(
                                            "/connections/" + ServiceClient.encode(name) + "/records",
                                            RecordTypeView.class,
                                            ALL),
                            "It holds no record types.",
                            List.of(
                                    Column.text("records", RecordTypeView::name),
                                    Column.text("", type -> type.writable() ? "can be written" : "read only"),
                                    Column.number("about", RecordTypeView::estimatedRecords),
                                    Column.text("label", RecordTypeView::label)));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "fields", description = "What a record type demands, field by field.")
    static final class Fields extends Verb {
        @Parameters(paramLabel = "NAME")
        private String name = "";

        @Parameters(paramLabel = "RECORDS")
        private String records = "";

        @Override
        public Integer call() {
            RecordsView view = service()
                    .get(
                            "/connections/" + ServiceClient.encode(name) + "/records/" + ServiceClient.encode(records),
                            RecordsView.class);
            if (output().json()) {
                output().one(view, ignored -> List.of());
            } else {
                output().list(
                                view.fields(),
                                "It has no fields.",
                                List.of(
                                        Column.text("field", FieldView::name),
                                        Column.text("kind", FieldView::kind),
                                        Column.text("type", FieldView::type),
                                        Column.text("marks", ConnectionCommands::marks),
                                        Column.text("label", FieldView::label)));
                output().remark("Keys: "
                        + view.uniqueKeys().stream()
                                .map(key -> String.join(" + ", key))
                                .distinct()
                                .toList());
            }
            return ExitStatus.WELL;
        }
    }

    @Command(name = "files", description = "The files that lie in a place.")
    static final class FilesOf extends Verb {
        @Parameters(index = "0", paramLabel = "NAME")
        private String name = "";

        @Parameters(index = "1", paramLabel = "PATTERN", arity = "0..1", description = "With * and ? where names vary.")
        private String pattern = "*";

        @Override
        public Integer call() {
            String path =
                    "/connections/" + ServiceClient.encode(name) + "/files?pattern=" + ServiceClient.encode(pattern);
            output().list(
                            service().list(path, FoundFileView.class, ALL),
                            "No such file lies there.",
                            List.of(
                                    Column.text("file", FoundFileView::name),
                                    Column.number("bytes", file -> file.size() < 0 ? null : file.size()),
                                    Column.text("changed", FoundFileView::modified)));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "profile", description = "What the records of a type hold, field by field.")
    static final class Profile extends Verb {
        @Parameters(paramLabel = "NAME")
        private String name = "";

        @Parameters(paramLabel = "RECORDS")
        private String records = "";

        @Option(names = "--key", paramLabel = "a,b", description = "Fields that might tell records apart; repeatable.")
        private List<String> keys = List.of();

        @Override
        public Integer call() {
            ProfileView profile = service()
                    .post(
                            "/connections/" + ServiceClient.encode(name) + "/records/" + ServiceClient.encode(records)
                                    + "/profile",
                            new ProfileRecords(ProfileText.keys(keys)),
                            ProfileView.class);
            output().one(profile, ProfileText::lines);
            return profile.failures().isEmpty() ? ExitStatus.WELL : ExitStatus.REFUSED;
        }
    }

    static String marks(FieldView field) {
        List<String> marks = new ArrayList<>();
        if (!field.uniqueIn().isEmpty()) {
            marks.add(field.primaryKey() ? "key, own id" : "key");
        }
        if (field.required()) {
            marks.add("required");
        }
        if (field.generated()) {
            marks.add("filled by itself");
        }
        if (field.readOnly()) {
            marks.add("read only: " + field.readOnlyReason());
        }
        if (field.fixed()) {
            marks.add("fixed once the record is there");
        }
        if (field.sensitive()) {
            marks.add("sensitive");
        }
        if (field.refersTo() != null) {
            marks.add("refers to " + field.refersTo());
        }
        if (!field.allowed().isEmpty()) {
            marks.add("one of " + String.join(", ", field.allowed()));
        }
        if (!field.help().isEmpty()) {
            marks.add(field.help());
        }
        return String.join(" · ", marks);
    }
}

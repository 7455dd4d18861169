package dev.nachlauf.cli;

import dev.nachlauf.api.CrosswalkEntries;
import dev.nachlauf.api.CrosswalkView;
import dev.nachlauf.api.FileView;
import dev.nachlauf.api.GapView;
import dev.nachlauf.api.SharedChange;
import dev.nachlauf.api.SourceRequest;
import dev.nachlauf.api.TranslationView;
import dev.nachlauf.cli.Output.Column;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Crosswalks: tables that translate values. */
@Command(description = "Crosswalks: tables that translate the source's values into the target's.")
final class CrosswalkCommands extends Group {
    private static final int ALL = 100_000;

    @Override
    List<Class<? extends Verb>> verbs() {
        return List.of(Save.class, All.class, Show.class, Try.class, Add.class, Gaps.class);
    }

    @Command(name = "save", description = "Check and keep crosswalks: YAML, or a table of two or three columns.")
    static final class Save extends Verb {
        @Parameters(paramLabel = "FILE", arity = "1..*", description = "Files; - for standard input.")
        private List<Path> files = List.of();

        @Option(
                names = "--name",
                paramLabel = "NAME",
                description = "The name of a crosswalk that comes as a table; the file's unless given.")
        private Optional<String> name = Optional.empty();

        @Override
        public Integer call() {
            for (Path file : files) {
                String fileName = file.getFileName().toString();
                boolean yaml = fileName.endsWith(".yaml") || fileName.endsWith(".yml");
                SharedChange change = yaml
                        ? service()
                                .postDocument(
                                        "/crosswalks?file=" + ServiceClient.encode(fileName), file, SharedChange.class)
                        : table(file, fileName);
                output().one(change, saved -> SharedText.lines("crosswalk", saved));
            }
            return ExitStatus.WELL;
        }

        private SharedChange table(Path file, String fileName) {
            FileView kept = service().upload(file);
            String called = name.orElseGet(
                    () -> fileName.replaceAll("\\.[A-Za-z0-9]+$", "").toLowerCase(Locale.ROOT));
            return service()
                    .post("/crosswalks/" + ServiceClient.encode(called) + "/table", of(kept), SharedChange.class);
        }
    }

    private static SourceRequest of(FileView file) {
        return new SourceRequest(file.hash(), file.name(), null, null, null, null, null, null, null, null);
    }

    @Command(name = "list", description = "All crosswalks.")
    static final class All extends Verb {
        @Override
        public Integer call() {
            output().list(
                            service().list("/crosswalks", CrosswalkView.class, ALL),
                            "No crosswalk is saved yet. Save one with: nachlauf crosswalk save FILE",
                            List.of(
                                    Column.text("crosswalk", CrosswalkView::name),
                                    Column.number("version", CrosswalkView::version),
                                    Column.number("entries", CrosswalkView::entries),
                                    Column.text("title", CrosswalkView::title)));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "show", description = "A crosswalk as it was written.")
    static final class Show extends ShowDocument<CrosswalkView> {
        Show() {
            super("/crosswalks", CrosswalkView.class, CrosswalkView::document);
        }
    }

    @Command(name = "try", description = "What a value becomes, and which entry says so.")
    static final class Try extends Verb {
        @Parameters(index = "0", paramLabel = "NAME")
        private String name = "";

        @Parameters(index = "1", paramLabel = "VALUE")
        private String value = "";

        @Option(names = "--scope", paramLabel = "SCOPE", description = "Which of its tables is meant.")
        private Optional<String> scope = Optional.empty();

        @Override
        public Integer call() {
            String path = "/crosswalks/" + ServiceClient.encode(name) + "/translation?value="
                    + ServiceClient.encode(value)
                    + scope.map(one -> "&scope=" + ServiceClient.encode(one)).orElse("");
            output().one(service().get(path, TranslationView.class), CrosswalkCommands::explained);
            return ExitStatus.WELL;
        }
    }

    private static List<String> explained(TranslationView found) {
        String table = found.entryScope().isEmpty() ? "" : " in the scope " + found.entryScope();
        String line = found.line() == null ? "" : ", line " + found.line();
        return List.of(
                found.value() + " → " + found.translation(),
                "by " + found.kind() + ": " + found.entry() + table + " (" + found.crosswalk() + " version "
                        + found.version() + line + ")");
    }

    @Command(name = "add", description = "Add a translation.")
    static final class Add extends Verb {
        @Parameters(index = "0", paramLabel = "NAME")
        private String name = "";

        @Parameters(index = "1", paramLabel = "FROM")
        private String from = "";

        @Parameters(index = "2", paramLabel = "TO")
        private String to = "";

        @Option(names = "--scope", paramLabel = "SCOPE", description = "Into which of its tables.")
        private Optional<String> scope = Optional.empty();

        @Override
        public Integer call() {
            CrosswalkEntries entries =
                    new CrosswalkEntries(List.of(new CrosswalkEntries.Entry(from, to, scope.orElse(null))));
            SharedChange change = service()
                    .post("/crosswalks/" + ServiceClient.encode(name) + "/entries", entries, SharedChange.class);
            output().one(change, saved -> SharedText.lines("crosswalk", saved));
            return ExitStatus.WELL;
        }
    }

    @Command(
            name = "gaps",
            description =
                    "Values without a translation: of a run's rows, of what a job reads, or of a field of a file.")
    static final class Gaps extends Verb {
        @Parameters(
                paramLabel = "NAME",
                arity = "0..1",
                description =
                        "The crosswalk, with --field; those of saved jobs that translate such a field unless given.")
        private Optional<String> name = Optional.empty();

        @Option(names = "--run", paramLabel = "ID", description = "The rows of this run.")
        private Optional<Long> run = Optional.empty();

        @Option(names = "--job", paramLabel = "J", description = "What this job reads, before it is run.")
        private Optional<String> job = Optional.empty();

        @Option(names = "--file", paramLabel = "F", description = "A file of this machine.")
        private Optional<Path> file = Optional.empty();

        @Option(
                names = "--field",
                paramLabel = "FIELD",
                description = "The field of the file whose values are looked at.")
        private Optional<String> field = Optional.empty();

        @Option(names = "--scope-field", paramLabel = "FIELD", description = "The field that holds the scope.")
        private Optional<String> scopeField = Optional.empty();

        @Override
        public Integer call() {
            List<GapView> gaps = run.isPresent() ? ofRun(run.get()) : job.isPresent() ? ofJob(job.get()) : ofField();
            output().list(
                            gaps,
                            "Every value has a translation.",
                            List.of(
                                    Column.text("crosswalk", GapView::crosswalk),
                                    Column.text("scope", GapView::scope),
                                    Column.text("value", GapView::value),
                                    Column.number("rows", GapView::rows),
                                    Column.text("for instance", gap -> first(gap.examples()))));
            return gaps.isEmpty() ? ExitStatus.WELL : ExitStatus.REFUSED;
        }

        private static @Nullable String first(List<String> examples) {
            return examples.isEmpty() ? null : examples.getFirst();
        }

        private List<GapView> ofRun(long id) {
            return service().list("/runs/" + id + "/gaps", GapView.class, ALL);
        }

        private List<GapView> ofJob(String asked) {
            String source = file.map(path -> service().upload(path))
                    .map(kept -> "?source=" + kept.hash() + "&sourceName=" + ServiceClient.encode(kept.name()))
                    .orElse("");
            return service().postForList("/jobs/" + ServiceClient.encode(asked) + "/gaps" + source, "", GapView.class);
        }

        private List<GapView> ofField() {
            if (file.isEmpty() || field.isEmpty()) {
                throw misuse("Give --run ID, --job J, or --file F with --field FIELD.");
            }
            FileView kept = service().upload(file.get());
            String crosswalk = name.map(one -> "/" + ServiceClient.encode(one)).orElse("");
            String scope = scopeField
                    .map(one -> "&scopeField=" + ServiceClient.encode(one))
                    .orElse("");
            String path = "/crosswalks" + crosswalk + "/gaps?field=" + ServiceClient.encode(field.get()) + scope;
            return service().postForList(path, of(kept), GapView.class);
        }
    }
}

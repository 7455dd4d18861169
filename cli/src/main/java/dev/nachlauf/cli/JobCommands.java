package dev.nachlauf.cli;

import dev.nachlauf.api.FieldView;
import dev.nachlauf.api.JobCheck;
import dev.nachlauf.api.JobTrial;
import dev.nachlauf.api.JobTrial.MapLine;
import dev.nachlauf.api.JobTrial.WriteMap;
import dev.nachlauf.api.JobView;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.SuggestionRequest;
import dev.nachlauf.api.SuggestionView;
import dev.nachlauf.cli.Output.Column;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.job.JobSchema;
import dev.nachlauf.core.job.PiecesFile;
import dev.nachlauf.core.job.SharedPieces;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemText;
import dev.nachlauf.core.text.SourceText;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Jobs: repeatable loads. */
@Command(
        name = "job",
        description = "Jobs: repeatable loads, one file each, every save a version.",
        subcommands = {
            JobCommands.Save.class,
            JobCommands.Check.class,
            JobCommands.Try.class,
            JobCommands.Fields.class,
            JobCommands.Suggest.class,
            JobCommands.All.class,
            JobCommands.Show.class,
            JobHistory.class,
            JobHistory.Promotions.class,
            JobHistory.Promote.class,
            JobCommands.Schema.class
        })
final class JobCommands extends Group {
    private static final int ALL = 100_000;

    @Command(name = "save", description = "Check and keep jobs; each save is a version.")
    static final class Save extends Verb {
        @Parameters(paramLabel = "FILE", arity = "1..*", description = "Files; - for standard input.")
        private List<Path> files = List.of();

        @Option(names = "--draft", description = "Keep a job with errors too; it can't be started.")
        private boolean draft;

        @Override
        public Integer call() {
            for (Path file : files) {
                String path = "/jobs?file=" + ServiceClient.encode(file.getFileName()) + "&draft=" + draft;
                JobView saved = service().postDocument(path, file, JobView.class);
                output().one(saved, JobCommands::saved);
            }
            return ExitStatus.WELL;
        }
    }

    private static List<String> saved(JobView job) {
        List<String> lines = new ArrayList<>();
        lines.add("saved " + job.name() + " version " + job.version() + (job.draft() ? " as a draft" : ""));
        job.problems().forEach(problem -> lines.add(problem.rendered()));
        return lines;
    }

    @Command(name = "check", description = "Check jobs without keeping them.")
    static final class Check extends Verb {
        @Parameters(paramLabel = "FILE", arity = "1..*", description = "Files; - for standard input.")
        private List<Path> files = List.of();

        @Option(names = "--offline", description = "Only what the file alone can tell; needs no service.")
        private boolean offline;

        @Option(
                names = "--pieces",
                paramLabel = "FILE",
                description = "Shared pieces that the jobs include, for --offline; may be repeated.")
        private List<Path> pieces = List.of();

        @Override
        public Integer call() {
            boolean sound = true;
            for (Path file : files) {
                sound &= offline ? checkHere(file) : checkThere(file);
            }
            return sound ? ExitStatus.WELL : ExitStatus.REFUSED;
        }

        private boolean checkHere(Path file) {
            List<Problem> problems = new ArrayList<>();
            SharedPieces shared = SharedPieces.NONE;
            for (Path piece : pieces) {
                shared = PiecesFile.read(text(piece), problems)
                        .map(PiecesFile.Definition::pieces)
                        .map(shared::and)
                        .orElse(shared);
            }
            SharedPieces included = shared;
            JobFile.read(text(file), names -> included, problems);
            problems.forEach(problem -> output().remark(ProblemText.render(problem)));
            if (problems.isEmpty()) {
                output().remark(file.getFileName() + ": the file is sound in itself");
            }
            return problems.isEmpty();
        }

        private SourceText text(Path file) {
            return new SourceText(
                    String.valueOf(file.getFileName()), surroundings().read(file));
        }

        private boolean checkThere(Path file) {
            String path = "/jobs/check?file=" + ServiceClient.encode(file.getFileName());
            JobCheck check = service().postDocument(path, file, JobCheck.class);
            output().one(check, found -> lines(file, found));
            return check.sound();
        }

        private static List<String> lines(Path file, JobCheck check) {
            List<String> lines = new ArrayList<>(
                    check.problems().stream().map(ProblemView::rendered).toList());
            if (check.sound()) {
                lines.add(file.getFileName() + ": sound; checked against "
                        + (check.checkedAgainst().isEmpty()
                                ? "the file alone"
                                : String.join(", ", check.checkedAgainst())));
            }
            return lines;
        }
    }

    /** A job that is not saved yet, and what it reads. */
    static final class Tried {
        @Parameters(paramLabel = "FILE")
        private Path job = Path.of("");

        @Option(names = "--file", paramLabel = "FILE", description = "A file to read instead of what the job names.")
        private Optional<Path> file = Optional.empty();

        String name() {
            return String.valueOf(job.getFileName());
        }

        /** What the service makes of the first rows. */
        JobTrial trial(ServiceClient service, int rows) {
            String source = file.map(service::upload)
                    .map(kept -> "&source=" + kept.hash() + "&sourceName=" + ServiceClient.encode(kept.name()))
                    .orElse("");
            String path = "/jobs/trial?file=" + ServiceClient.encode(name()) + "&rows=" + rows + source;
            return service.postDocument(path, job, JobTrial.class);
        }
    }

    @Command(
            name = "try",
            description = "What a job makes of the first rows of its source; nothing is written or kept.")
    static final class Try extends Verb {
        @Mixin
        private Tried tried = new Tried();

        @Option(
                names = "--rows",
                paramLabel = "N",
                description = "How many rows of the source to read (default 5, maximum 200).")
        private int rows = 5;

        @Option(names = "--rejected", description = "Show only those of the rows that are rejected.")
        private boolean rejected;

        @Override
        public Integer call() {
            JobTrial trial = tried.trial(service(), rows);
            output().one(trial, made -> TrialText.lines(tried.name(), made, rejected));
            if (!trial.sound()) {
                return ExitStatus.REFUSED;
            }
            boolean rejected =
                    trial.rows().stream().anyMatch(row -> row.outcome().equals("rejected"));
            return rejected ? ExitStatus.REJECTS : ExitStatus.WELL;
        }
    }

    @Command(
            name = "fields",
            description = "All fields of a job's targets: what each demands, and what the job maps to it.")
    static final class Fields extends Verb {
        @Mixin
        private Tried tried = new Tried();

        @Option(names = "--only", paramLabel = "mapped|unmapped|required", description = "Only these fields.")
        private Optional<Chosen> only = Optional.empty();

        @Option(names = "--find", paramLabel = "TEXT", description = "Only fields whose name, label or formula has it.")
        private String text = "";

        /** Which fields are shown. */
        enum Chosen {
            mapped,
            unmapped,
            required
        }

        /** A line with the write that it belongs to. */
        private record Line(
                String write,
                String connection,
                String records,
                FieldView field,
                @Nullable String formula,
                String rule,
                boolean key) {
            static Line of(WriteMap map, MapLine line) {
                return new Line(
                        map.write(),
                        map.connection(),
                        map.records(),
                        line.field(),
                        line.formula(),
                        line.rule(),
                        line.key());
            }
        }

        @Override
        public Integer call() {
            JobTrial trial = tried.trial(service(), 1);
            if (!trial.sound()) {
                trial.problems().forEach(problem -> output().remark(problem.rendered()));
                return ExitStatus.REFUSED;
            }
            List<Line> lines = trial.maps().stream()
                    .flatMap(map -> map.fields().stream().map(line -> Line.of(map, line)))
                    .filter(line -> only.map(chosen -> isOf(line, chosen)).orElse(true))
                    .filter(this::holds)
                    .toList();
            output().list(
                            lines,
                            "No field of this kind.",
                            List.of(
                                    Column.text("write", Line::write),
                                    Column.text("field", line -> line.field().name()),
                                    Column.text("type", line -> line.field().type()),
                                    Column.text("marks", Fields::marks),
                                    Column.text("gets", Line::formula),
                                    Column.text("", line -> line.rule().equals("always") ? "" : line.rule())));
            return ExitStatus.WELL;
        }

        private static String marks(Line line) {
            String demanded = ConnectionCommands.marks(line.field());
            return !line.key() ? demanded : demanded.isEmpty() ? "found by" : "found by · " + demanded;
        }

        private static boolean isOf(Line line, Chosen chosen) {
            boolean mapped = !line.rule().isEmpty() && !line.rule().equals("off");
            return switch (chosen) {
                case mapped -> mapped;
                case unmapped -> !mapped && !line.field().readOnly();
                case required ->
                    line.key() || line.field().required() && !line.field().generated();
            };
        }

        private boolean holds(Line line) {
            String wanted = text.toLowerCase(Locale.ROOT);
            return Stream.of(line.field().name(), line.field().label(), Objects.requireNonNullElse(line.formula(), ""))
                    .anyMatch(held -> held.toLowerCase(Locale.ROOT).contains(wanted));
        }
    }

    @Command(
            name = "suggest",
            description = "Which field of a source probably belongs to which field of a record type; you decide.")
    static final class Suggest extends Verb {
        @Mixin
        private SourceCommands.Looked looked = new SourceCommands.Looked();

        @Option(
                names = "--into",
                paramLabel = "CONNECTION RECORDS",
                arity = "2",
                required = true,
                description = "The record type that the job is to write.")
        private List<String> into = List.of();

        @Override
        public Integer call() {
            SuggestionRequest request = new SuggestionRequest(looked.request(this, 1), into.get(0), into.get(1));
            output().list(
                            service().postForList("/suggestions", request, SuggestionView.class),
                            "Nothing in the source looks like a field of " + into.get(1) + ".",
                            List.of(
                                    Column.text("source", SuggestionView::source),
                                    Column.text("target", SuggestionView::target),
                                    Column.text("score", pair -> "%.2f".formatted(pair.score())),
                                    Column.text("because", pair -> String.join(", ", pair.evidence()))));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "list", description = "All jobs.")
    static final class All extends Verb {
        @Override
        public Integer call() {
            output().list(
                            service().list("/jobs", JobView.class, ALL),
                            "No job is saved yet. Save one with: nachlauf job save FILE",
                            List.of(
                                    Column.text("job", JobView::name),
                                    Column.number("version", JobView::version),
                                    Column.text("title", JobView::title),
                                    Column.text(
                                            "last run",
                                            job -> job.lastRun() == null
                                                    ? "–"
                                                    : job.lastRun().id() + " "
                                                            + job.lastRun().state()),
                                    Column.number(
                                            "rejects",
                                            job -> job.lastRun() == null
                                                    ? null
                                                    : job.lastRun().openRejects())));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "show", description = "A job as it was written, with what its check found.")
    static final class Show extends Verb {
        @Parameters(paramLabel = "NAME")
        private String name = "";

        @Override
        public Integer call() {
            JobView job = service().get("/jobs/" + ServiceClient.encode(name), JobView.class);
            output().one(job, shown -> shown.document().lines().toList());
            if (!output().json()) {
                job.problems().forEach(problem -> output().remark(problem.rendered()));
            }
            return ExitStatus.WELL;
        }
    }

    @Command(name = "schema", description = "The JSON Schema of job files, for editors; needs no service.")
    static final class Schema extends Verb {
        @Override
        public Integer call() {
            output().text(JobSchema.text());
            return ExitStatus.WELL;
        }
    }
}

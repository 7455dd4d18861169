package dev.nachlauf.cli;

import dev.nachlauf.api.JobCheck;
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
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Jobs: repeatable loads. */
@Command(description = "Jobs: repeatable loads, one file each, every save a version.")
final class JobCommands extends Group {
    private static final int ALL = 100_000;

    @Override
    List<Class<? extends Verb>> verbs() {
        return List.of(
                Save.class,
                Check.class,
                JobTrialCommands.Try.class,
                JobTrialCommands.Fields.class,
                Suggest.class,
                All.class,
                Show.class,
                JobHistory.class,
                JobHistory.Promotions.class,
                JobHistory.Promote.class,
                Schema.class);
    }

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

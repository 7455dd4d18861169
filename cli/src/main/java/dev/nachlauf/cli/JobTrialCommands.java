package dev.nachlauf.cli;

import dev.nachlauf.api.FieldView;
import dev.nachlauf.api.JobTrial;
import dev.nachlauf.api.JobTrial.MapLine;
import dev.nachlauf.api.JobTrial.WriteMap;
import dev.nachlauf.cli.Output.Column;
import java.nio.file.Path;
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

/** What a job that is not saved yet would make of its source. */
final class JobTrialCommands {
    private JobTrialCommands() {}

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
}

package dev.nachlauf.cli;

import dev.nachlauf.api.FileView;
import dev.nachlauf.api.LedgerRowView;
import dev.nachlauf.api.LedgerRowView.FieldChange;
import dev.nachlauf.api.RunLine;
import dev.nachlauf.api.RunLogLine;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.cli.Output.Column;
import java.nio.file.Path;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Runs: started, followed, decided about, accounted for. */
@Command(description = "Runs: started, followed, decided about, accounted for.")
final class RunCommands extends Group {
    @Override
    List<Class<? extends Verb>> verbs() {
        return List.of(
                Start.class,
                All.class,
                Show.class,
                Follow.class,
                Log.class,
                RunTold.class,
                RunDecisions.Stop.class,
                RunDecisions.LeaveOut.class,
                RunDecisions.Release.class,
                RunDecisions.Discard.class,
                RunVerify.class,
                RunDecisions.Undo.class,
                Ledger.class,
                RunResults.class,
                RunIssued.class,
                RunConfirm.class);
    }

    @Command(name = "start", description = "Start a job.")
    static final class Start extends Verb {
        @Parameters(paramLabel = "JOB")
        private String job = "";

        @Option(names = "--file", description = "A file of yours, which takes the place of what the job reads.")
        private Optional<Path> file = Optional.empty();

        @Option(names = "--set", paramLabel = "p=v", description = "The value of a parameter; may be repeated.")
        private Map<String, String> parameters = Map.of();

        @ArgGroup
        @Nullable
        private Mode mode;

        @Option(
                names = "--rows",
                paramLabel = "1-10,15",
                description = "Only these rows of the source, counted from 1; the others are skipped.")
        private Optional<String> rows = Optional.empty();

        @Option(
                names = "--where",
                paramLabel = "F",
                description = "Only rows of the source for which the formula is true; the others are skipped.")
        private Optional<String> where = Optional.empty();

        @Option(
                names = "--first",
                paramLabel = "N",
                description = "Write the first N rows and hold: run release writes the rest, run discard ends it.")
        private Optional<Long> first = Optional.empty();

        @Option(names = "--follow", description = "Stay until the run has ended or is held.")
        private boolean follow;

        /** Together they would make no sense. */
        static final class Mode {
            @Option(names = "--dry-run", description = "Plan everything and show it; write nothing.")
            private boolean dryRun;

            @Option(
                    names = "--rehearse",
                    description =
                            "Send everything to the target and take it back, so that its own rules speak; keep nothing.")
            private boolean rehearse;

            @Option(
                    names = "--hold",
                    description =
                            "Plan everything, then wait: run release writes what was reviewed, run discard ends it.")
            @SuppressWarnings("UnusedVariable") // what is left where it is none of the others
            private boolean hold;

            String word() {
                return dryRun ? "dry-run" : rehearse ? "rehearse" : "hold";
            }
        }

        @Override
        public Integer call() {
            Map<String, String> given = new Questions(surroundings(), service()).ask(job, parameters);
            FileView upload = file.map(path -> service().upload(path)).orElse(null);
            StartRun request = new StartRun(
                    job,
                    upload == null ? null : upload.hash(),
                    upload == null ? null : upload.name(),
                    given,
                    mode == null ? null : mode.word(),
                    rows.orElse(null),
                    where.orElse(null),
                    first.orElse(null));
            RunView run = service().post("/runs", request, RunView.class);
            if (follow) {
                return follow(run.id());
            }
            output().one(
                            run,
                            started ->
                                    List.of("run " + started.id() + " of " + started.job() + " is " + started.state()));
            output().remark("Follow it with nachlauf run follow " + run.id() + ".");
            return ExitStatus.WELL;
        }
    }

    @Command(name = "list", description = "Runs, newest first.")
    static final class All extends Verb {
        @Option(names = "--job", paramLabel = "J", description = "Of one job only.")
        private Optional<String> job = Optional.empty();

        @Option(names = "--limit", paramLabel = "N", description = "Show at most N.", defaultValue = "20")
        private int limit;

        @Override
        public Integer call() {
            String path = "/runs"
                    + job.map(name -> "?job=" + ServiceClient.encode(name)).orElse("");
            output().list(
                            service().list(path, RunLine.class, limit),
                            "Nothing has run yet. Start a job with: nachlauf run start JOB --follow",
                            List.of(
                                    Column.number("run", RunLine::id),
                                    Column.text("job", RunLine::job),
                                    Column.<RunLine>text("in", RunLine::environment)
                                            .unlessEmpty(),
                                    Column.text("state", RunCommands::state),
                                    Column.number("read", run -> run.balance().read()),
                                    Column.number(
                                            "inserted", run -> run.balance().inserted()),
                                    Column.number(
                                            "updated", run -> run.balance().updated()),
                                    Column.number(
                                            "unchanged", run -> run.balance().unchanged()),
                                    Column.number(
                                            "deleted", run -> run.balance().deleted()),
                                    Column.number(
                                            "skipped", run -> run.balance().skipped()),
                                    Column.number(
                                            "rejected", run -> run.balance().allRejected()),
                                    Column.text("source", RunLine::source),
                                    Column.text("by", RunLine::startedBy)));
            return ExitStatus.WELL;
        }
    }

    /** A command about one run. */
    abstract static class OfRun extends Verb {
        @Parameters(paramLabel = "ID")
        private long id;

        long id() {
            return id;
        }

        String path() {
            return "/runs/" + id;
        }
    }

    @Command(name = "show", description = "One run with its balance.")
    static final class Show extends OfRun {
        @Override
        public Integer call() {
            RunView run = service().get(path(), RunView.class);
            output().one(run, shown -> RunText.lines(shown, new Samples(service())));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "follow", description = "Stay with a run until it has ended.")
    static final class Follow extends OfRun {
        @Override
        public Integer call() {
            return follow(id());
        }
    }

    @Command(name = "log", description = "What has happened to a run, and when.")
    static final class Log extends OfRun {
        @Override
        public Integer call() {
            output().list(
                            service().list(path() + "/log", RunLogLine.class, Integer.MAX_VALUE),
                            "Nothing is known of the run; it is older than its log.",
                            List.of(
                                    Column.text(
                                            "when",
                                            line -> line.at()
                                                    .truncatedTo(ChronoUnit.SECONDS)
                                                    .toString()),
                                    Column.text("what", RunLogLine::text)));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "ledger", description = "What became of each row, with old and new values.")
    static final class Ledger extends OfRun {
        @Option(names = "--outcome", paramLabel = "O", description = "Of one outcome only.")
        private Optional<String> outcome = Optional.empty();

        @Option(names = "--limit", paramLabel = "N", description = "Show at most N lines.", defaultValue = "100")
        private int limit;

        @Override
        public Integer call() {
            String path = path() + "/ledger"
                    + outcome.map(word -> "?outcome=" + ServiceClient.encode(word))
                            .orElse("");
            output().list(
                            service().list(path, LedgerRowView.class, limit),
                            "The ledger has no such lines.",
                            List.of(
                                    Column.place("row", LedgerRowView::row),
                                    Column.text("source", LedgerRowView::source),
                                    Column.place("line", LedgerRowView::line),
                                    Column.text("outcome", LedgerRowView::outcome),
                                    Column.text("key", row -> String.join(" · ", row.key())),
                                    Column.text("changes", RunCommands::changes)));
            return ExitStatus.WELL;
        }
    }

    /** The state of a run, and what it is for where that isn't writing. */
    static String state(RunLine run) {
        return switch (run.mode()) {
            case "dry-run" -> run.state() + " (dry run)";
            case "rehearse" -> run.state() + " (rehearsal)";
            case "undo" -> run.state() + " (undoes " + run.undoes() + ")";
            default -> run.state();
        };
    }

    static String changes(LedgerRowView row) {
        List<String> parts = new ArrayList<>();
        if (row.leftOut() && !row.note().equals("left out")) {
            parts.add("left out");
        }
        if (!row.note().isEmpty()) {
            parts.add(row.note());
        }
        switch (row.outcome()) {
            case "inserted" -> parts.add(held(row, FieldChange::after));
            case "deleted" -> parts.add("was " + held(row, FieldChange::before));
            default ->
                row.changes()
                        .forEach(change -> parts.add(change.field() + " "
                                + Objects.requireNonNullElse(change.before(), "(empty)") + " → "
                                + Objects.requireNonNullElse(change.after(), "(empty)")));
        }
        return String.join(", ", parts);
    }

    /** What a record holds or held, without what is empty. */
    private static String held(LedgerRowView row, Function<FieldChange, @Nullable String> of) {
        return row.changes().stream()
                .filter(change -> of.apply(change) != null)
                .map(change -> change.field() + " " + of.apply(change))
                .collect(Collectors.joining(", "));
    }
}

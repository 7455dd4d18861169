package dev.nachlauf.cli;

import dev.nachlauf.api.FileView;
import dev.nachlauf.api.FixRejects;
import dev.nachlauf.api.RejectsChanged;
import dev.nachlauf.api.RejectsChosen;
import dev.nachlauf.api.ResubmitRejects;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.SetRejectsAside;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** What a person can decide about rejects. */
final class RejectDecisions {
    private RejectDecisions() {}

    /** A verb about certain rejects: by their numbers, or those of a run. */
    abstract static class OfRejects extends Verb {
        @Parameters(paramLabel = "ID", arity = "0..*", description = "Numbers of rejects, as rejects list shows them.")
        private List<Long> ids = List.of();

        @Option(names = "--run", paramLabel = "ID", description = "Those of this run.")
        private Optional<Long> run = Optional.empty();

        @Option(
                names = "--where",
                paramLabel = "F",
                description = "Only where this formula is true of the cells as they stand in the source.")
        private Optional<String> where = Optional.empty();

        RejectsChosen chosen() {
            if (ids.isEmpty() == run.isEmpty()) {
                throw misuse("Name rejects by their numbers, or a run with --run.");
            }
            if (where.isPresent() && run.isEmpty()) {
                throw misuse("--where looks at the rejects of a run: name it with --run.");
            }
            return new RejectsChosen(ids.isEmpty() ? null : ids, run.orElse(null), where.orElse(null));
        }

        Integer tell(RejectsChanged changed, String what) {
            long count = changed.changed();
            output().one(
                            changed,
                            done -> List.of((count == 0
                                            ? "no reject is "
                                            : count == 1 ? "1 reject is " : Output.number(count) + " rejects are ")
                                    + what));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "fix", description = "Correct cells of rejected rows; that counts when they are sent again.")
    static final class Fix extends OfRejects {
        @Option(
                names = "--set",
                paramLabel = "field=value",
                required = true,
                description = "What is to stand in a column; may be repeated. Nothing behind the = empties the cell.")
        private Map<String, String> set = Map.of();

        @Override
        public Integer call() {
            RejectsChanged changed =
                    service().post("/rejects/fix", new FixRejects(chosen(), set), RejectsChanged.class);
            return tell(changed, "corrected");
        }
    }

    @Command(name = "set-aside", description = "Set rejects aside: they are kept, and not sent again.")
    static final class SetAside extends OfRejects {
        @Option(names = "--note", paramLabel = "T", description = "Why; needed to set them aside.")
        private String note = "";

        @Option(names = "--take-in", description = "Take them in again.")
        private boolean takeIn;

        @Override
        public Integer call() {
            RejectsChanged changed = service()
                    .post("/rejects/set-aside", new SetRejectsAside(chosen(), !takeIn, note), RejectsChanged.class);
            return tell(changed, takeIn ? "open again" : "set aside");
        }
    }

    @Command(name = "resubmit", description = "Send the open rejects of a run through its job again, as it is now.")
    static final class Resubmit extends Verb {
        @Parameters(paramLabel = "REJECT", arity = "0..*", description = "Only these rejects of the run.")
        private List<Long> ids = List.of();

        @Option(
                names = "--healed-by",
                paramLabel = "CROSSWALK",
                description = "Only those that lacked nothing but what crosswalks have now, this one among them.")
        private Optional<String> healedBy = Optional.empty();

        @Option(
                names = "--file",
                paramLabel = "F",
                description =
                        "A workbook of rejects export that was mended: its rows are corrected, and only they are sent.")
        private Optional<Path> file = Optional.empty();

        @Option(names = "--run", paramLabel = "ID", required = true, description = "The run that has rejected them.")
        private long run;

        @Option(
                names = "--job-version",
                paramLabel = "N",
                description =
                        "Through this version of the job; the newest unless stated, or the one promoted where live.")
        private Optional<Integer> jobVersion = Optional.empty();

        @Option(names = "--follow", description = "Stay until the run has ended.")
        private boolean follow;

        @Override
        public Integer call() {
            if (Stream.of(healedBy.isPresent(), !ids.isEmpty(), file.isPresent())
                            .filter(named -> named)
                            .count()
                    > 1) {
                throw misuse("Name rejects by their numbers, or the crosswalk that heals them, or a workbook.");
            }
            List<Long> only = healedBy.map(this::healed).orElse(ids);
            if (healedBy.isPresent() && only.isEmpty()) {
                output().remark("No open reject of run " + run + " lacked only what " + healedBy.get() + " has now.");
                return ExitStatus.REFUSED;
            }
            Optional<FileView> mended = file.map(service()::upload);
            ResubmitRejects request = new ResubmitRejects(
                    only.isEmpty() ? null : only,
                    mended.map(FileView::hash).orElse(null),
                    mended.map(FileView::name).orElse(null),
                    jobVersion.orElse(null));
            RunView started = service().post("/runs/" + run + "/resubmit", request, RunView.class);
            if (follow) {
                return follow(started.id());
            }
            output().one(
                            started,
                            again -> List.of("run " + again.id() + " sends the rejects of run " + run + " again"));
            output().remark("Follow it with nachlauf run follow " + started.id() + ".");
            return ExitStatus.WELL;
        }

        private List<Long> healed(String crosswalk) {
            return service()
                    .list(
                            "/crosswalks/" + ServiceClient.encode(crosswalk) + "/healed?run=" + run,
                            Long.class,
                            Integer.MAX_VALUE);
        }
    }
}

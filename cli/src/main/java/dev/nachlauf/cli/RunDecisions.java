package dev.nachlauf.cli;

import dev.nachlauf.api.LeftOutView;
import dev.nachlauf.api.ReleaseRun;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.UndoRun;
import dev.nachlauf.cli.RunCommands.OfRun;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** What a person can decide about a run. */
final class RunDecisions {
    private RunDecisions() {}

    @Command(name = "stop", description = "End a run after the batch in hand.")
    static final class Stop extends OfRun {
        @Override
        public Integer call() {
            RunView run = service().post(path() + "/stop", RunView.class);
            output().one(run, stopped -> List.of("run " + stopped.id() + " ends after the batch in hand"));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "leave-out", description = "Leave rows of a held run out; what belongs to them is left out, too.")
    static final class LeaveOut extends OfRun {
        @Option(names = "--rows", paramLabel = "1-10,15", required = true, description = "Rows of the source, from 1.")
        private String rows = "";

        @Option(names = "--take-in", description = "Take them in again.")
        private boolean takeIn;

        @Override
        public Integer call() {
            dev.nachlauf.api.LeaveOut request = new dev.nachlauf.api.LeaveOut(rows, !takeIn);
            LeftOutView now = service().post(path() + "/left-out", request, LeftOutView.class);
            output().one(
                            now,
                            left -> List.of(
                                    left.count() == 0
                                            ? "run " + id() + " leaves no row out"
                                            : "run " + id() + " leaves out " + Output.number(left.count())
                                                    + (left.count() == 1 ? " row: " : " rows: ") + left.rows()));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "release", description = "Let a held run write what was reviewed.")
    static final class Release extends OfRun {
        @Option(names = "--beyond-limit", description = "Although a limit was crossed.")
        private boolean beyondLimit;

        @Option(names = "--follow", description = "Stay until the run has ended.")
        private boolean follow;

        @Override
        public Integer call() {
            RunView run = service().post(path() + "/release", new ReleaseRun(beyondLimit), RunView.class);
            if (follow) {
                return follow(id());
            }
            output().one(run, released -> List.of("run " + released.id() + " goes on"));
            return ExitStatus.WELL;
        }
    }

    @Command(name = "discard", description = "End a held run; what it has written stays.")
    static final class Discard extends OfRun {
        @Override
        public Integer call() {
            RunView run = service().post(path() + "/discard", RunView.class);
            output().one(run, discarded -> List.of("run " + discarded.id() + " is discarded"));
            return ExitStatus.WELL;
        }
    }

    @Command(
            name = "undo",
            description = "Take back what a run has written; what was changed since is reported and left alone.")
    static final class Undo extends OfRun {
        @Option(names = "--key", paramLabel = "k=v", description = "Only the record with this key; may be repeated.")
        private Map<String, String> key = Map.of();

        @Option(names = "--field", paramLabel = "f", description = "Only this field; may be repeated.")
        private List<String> fields = List.of();

        @Option(names = "--follow", description = "Stay until it is undone.")
        private boolean follow;

        @Override
        public Integer call() {
            RunView run = service().post(path() + "/undo", new UndoRun(key, fields), RunView.class);
            if (follow) {
                return follow(run.id());
            }
            output().one(run, undo -> List.of("run " + undo.id() + " undoes run " + undo.undoes()));
            output().remark("Follow it with nachlauf run follow " + run.id() + ".");
            return ExitStatus.WELL;
        }
    }
}

package dev.nachlauf.cli;

import dev.nachlauf.api.NoticeView;
import dev.nachlauf.api.Page;
import dev.nachlauf.cli.Output.Column;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.locks.LockSupport;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** Who was told what has become of a run. */
@Command(name = "told", description = "Who was told what has become of a run, and who couldn't be.")
final class RunTold extends RunCommands.OfRun {
    private static final Duration PATIENCE = Duration.ofSeconds(15);
    private static final Duration EVERY = Duration.ofMillis(100);

    @Option(names = "--again", description = "Try again what was given up.")
    private boolean again;

    @Override
    public Integer call() {
        String notices = path() + "/notices";
        if (again) {
            service().post(notices + "/again", Page.class);
        }
        output().list(
                        tried(notices),
                        "Nobody is told of run " + id() + ".",
                        List.of(
                                Column.text("over", NoticeView::connection),
                                Column.text("of", notice -> String.join(", ", notice.occasions())),
                                Column.text("state", NoticeView::state),
                                Column.number("tries", NoticeView::tries),
                                Column.text("answer", NoticeView::note)));
        return ExitStatus.WELL;
    }

    /** What is told, as soon as all of it was tried once; that takes a moment after a run has ended. */
    private List<NoticeView> tried(String path) {
        Instant patience = Instant.now().plus(PATIENCE);
        List<NoticeView> notices = service().list(path, NoticeView.class, Integer.MAX_VALUE);
        while (notices.stream().anyMatch(RunTold::isUnderWay) && Instant.now().isBefore(patience)) {
            LockSupport.parkNanos(EVERY.toNanos());
            notices = service().list(path, NoticeView.class, Integer.MAX_VALUE);
        }
        return notices;
    }

    private static boolean isUnderWay(NoticeView notice) {
        return notice.state().equals("wanted") && notice.note().isEmpty();
    }
}

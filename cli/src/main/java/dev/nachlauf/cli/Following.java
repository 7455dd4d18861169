package dev.nachlauf.cli;

import dev.nachlauf.api.BalanceView;
import dev.nachlauf.api.RunView;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;

/** Stays with a run: live progress on a terminal, the balance at the end. */
final class Following {
    private static final int ATTEMPTS = 60;
    private static final Set<String> AS_ASKED = Set.of("held-for-review", "first-rows-written");

    private final ServiceClient service;
    private final TerminalLine progress;

    Following(ServiceClient service, TerminalLine progress) {
        this.service = service;
        this.progress = progress;
    }

    int follow(Output output, long id) {
        AtomicReference<@Nullable RunView> last = new AtomicReference<>();
        for (int attempt = 0; !over(last.get()) && attempt < ATTEMPTS; attempt++) {
            try {
                service.follow("/runs/" + id + "/events", event -> {
                    RunView run = event.read(RunView.class);
                    last.set(run);
                    show(run);
                    return !over(run);
                });
            } catch (ServiceClient.Unreachable | ServiceClient.Unavailable e) {
                // the run goes on by itself when the service or its database is back; so does its follower, for a while
                boolean neverThere = last.get() == null && e instanceof ServiceClient.Unreachable;
                if (neverThere || attempt == ATTEMPTS - 1) {
                    throw e;
                }
                progress.show("waiting until the service answers again …");
                pause();
            }
        }
        progress.clear();
        RunView run = Objects.requireNonNull(last.get(), "the stream ended before it began");
        output.one(run, shown -> RunText.lines(shown, new Samples(service)));
        return status(run);
    }

    private static void pause() {
        try {
            Thread.sleep(1000);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private static boolean over(@Nullable RunView run) {
        return run != null && (run.ended() || run.state().equals("held"));
    }

    private static int status(RunView run) {
        if (isHeldAsAsked(run)) {
            return ExitStatus.WELL;
        }
        if (!run.state().equals("finished")) {
            return ExitStatus.REFUSED;
        }
        return run.balance().allRejected() + run.balance().kept() > 0 ? ExitStatus.REJECTS : ExitStatus.WELL;
    }

    private static boolean isHeldAsAsked(RunView run) {
        return run.state().equals("held")
                && run.reasons().stream().allMatch(reason -> AS_ASKED.contains(reason.code()));
    }

    /** How fast it moves, and how long it will take. */
    private static String pace(RunView.@Nullable Pace pace) {
        if (pace == null) {
            return "";
        }
        String rate = ", " + Output.number(pace.rate()) + " rows/s";
        return pace.secondsLeft() == null ? rate : rate + ", " + Output.seconds(pace.secondsLeft()) + " left";
    }

    private void show(RunView run) {
        BalanceView balance = run.balance();
        long done = balance.read() - balance.unreached();
        String line = run.phase().equals("writing") || run.phase().equals("planning")
                ? "[" + BalanceText.bar(balance) + "] " + Output.number(done) + " of " + Output.number(balance.read())
                : run.state() + " " + run.phase() + " " + (run.surveyed() > 0 ? Output.number(run.surveyed()) : "")
                        + run.note();
        progress.show(line + pace(run.pace()));
    }
}

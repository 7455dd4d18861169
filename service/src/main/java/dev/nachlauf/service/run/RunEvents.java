package dev.nachlauf.service.run;

import dev.nachlauf.api.RunView;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.time.Duration;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * Progress of runs as Server-Sent Events. Each follower has a virtual thread that looks a few times a second, and at once
 * when an attempt of this process is over; between two looks it holds no connection and no transaction.
 */
@Component
class RunEvents {
    private static final Duration LOOK_EVERY = Duration.ofMillis(250);
    private static final int SILENT_LOOKS = 40;
    private static final Logger LOG = LoggerFactory.getLogger(RunEvents.class);

    private final RunViews runs;
    private final ProgressBoard board;
    private final ExecutorService followers = Executors.newVirtualThreadPerTaskExecutor();

    RunEvents(RunViews runs, ProgressBoard board) {
        this.runs = runs;
        this.board = board;
    }

    SseEmitter follow(long id) {
        SseEmitter emitter = new SseEmitter(0L);
        followers.submit(() -> follow(id, emitter));
        return emitter;
    }

    private void follow(long id, SseEmitter emitter) {
        RunView sent = null;
        int silent = 0;
        try {
            while (true) {
                long over = board.over();
                RunView now = look(id);
                if (now != null && !now.equals(sent)) {
                    boolean last = now.ended() || now.state().equals("held");
                    emitter.send(
                            SseEmitter.event().name(last ? "end" : "progress").data(now));
                    if (last) {
                        emitter.complete();
                        return;
                    }
                    sent = now;
                    silent = 0;
                } else if (++silent >= SILENT_LOOKS) {
                    // shows that both ends are still there
                    emitter.send(SseEmitter.event().comment("still here"));
                    silent = 0;
                }
                board.awaitMore(over, LOOK_EVERY);
            }
        } catch (IOException | IllegalStateException e) {
            emitter.complete();
        } catch (RuntimeException e) {
            // whoever follows learns that nothing more will come, and follows again
            LOG.error("following run {} broke off", id, e);
            emitter.completeWithError(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            emitter.complete();
        }
    }

    /** Null while the service's database can't be asked. */
    private @Nullable RunView look(long id) {
        try {
            return runs.show(id);
        } catch (DataAccessException | TransactionException e) {
            return null;
        }
    }

    @PreDestroy
    void end() {
        followers.shutdownNow();
    }
}

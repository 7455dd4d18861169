package dev.nachlauf.service.notice;

import dev.nachlauf.api.RunView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.TellsPeople;
import dev.nachlauf.service.background.Worker;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.environment.ChosenEnvironment;
import dev.nachlauf.service.run.RunEnded;
import dev.nachlauf.service.run.RunHeld;
import dev.nachlauf.service.run.RunViews;
import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/** Tells what is due. Some receivers at once: one that never answers keeps nobody else waiting for long. */
@Component
class Telling {
    private static final Logger LOG = LoggerFactory.getLogger(Telling.class);
    private static final Duration EVERY = Duration.ofSeconds(5);
    private static final int AT_ONCE = 16;

    private final Notices notices;
    private final NoticeText text;
    private final RunViews views;
    private final Connections connections;
    private final Worker worker = new Worker("telling", "what is due could not be told", this::all);

    Telling(Notices notices, NoticeText text, RunViews views, Connections connections) {
        this.notices = notices;
        this.text = text;
        this.views = views;
        this.connections = connections;
    }

    @EventListener(ApplicationReadyEvent.class)
    void start() {
        worker.start(Duration.ofSeconds(1), EVERY);
    }

    @PreDestroy
    void stop() {
        worker.close();
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void ended(RunEnded run) {
        worker.wake();
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void held(RunHeld run) {
        worker.wake();
    }

    /** There may be something to tell. */
    void wake() {
        worker.wake();
    }

    /** Tells all that is due. */
    void all() {
        for (List<NoticeEntity> due = notices.take(AT_ONCE); !due.isEmpty(); due = notices.take(AT_ONCE)) {
            try (ExecutorService each = Executors.newVirtualThreadPerTaskExecutor()) {
                due.forEach(notice -> each.execute(() -> tell(notice)));
            }
        }
    }

    private void tell(NoticeEntity notice) {
        try {
            RunView run = views.show(notice.runId);
            notices.sent(notice, ChosenEnvironment.during(run.environment(), () -> told(notice, run)));
        } catch (CannotGoOn e) {
            String why = e.problems().getFirst().sentence();
            if (e.isTemporary()) {
                notices.later(notice, why);
            } else {
                notices.failed(notice, why);
            }
        } catch (RuntimeException e) {
            LOG.error("telling of run {} met a defect", notice.runId, e);
            notices.later(notice, "A defect of Nachlauf; the service's log says more.");
        }
    }

    private String told(NoticeEntity notice, RunView run) {
        try (OpenSystem system = connections.open(notice.connection).orElseThrow(() -> gone(notice.connection))) {
            if (system instanceof TellsPeople receiver) {
                return receiver.tell(text.of(notice, run));
            }
            throw new CannotGoOn(Problem.of(
                    ProblemCode.CONNECTION_UNFIT, "The connection " + notice.connection + " tells nobody.", ""));
        }
    }

    private static CannotGoOn gone(String connection) {
        return new CannotGoOn(Problem.of(
                ProblemCode.CONNECTION_UNKNOWN, "There is no connection " + connection + ".", "Save it again."));
    }
}

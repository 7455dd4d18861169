package dev.nachlauf.service.run;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.task.FailureHandler;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import dev.nachlauf.core.run.RunRecords.Fenced;
import dev.nachlauf.service.NachlaufSettings;
import jakarta.annotation.PreDestroy;
import java.time.Duration;
import javax.sql.DataSource;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.datasource.TransactionAwareDataSourceProxy;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/** Carries runs out. The scheduler's claims and heartbeats revive them when a process dies. */
@Component
class RunScheduler {
    private static final Logger LOG = LoggerFactory.getLogger(RunScheduler.class);
    /** Threads cost little; how many runs work at once is the slots' business. */
    private static final int THREADS = 24;

    private static final int MISSED_HEARTBEATS = 4;
    private static final Duration POLLING = Duration.ofSeconds(1);
    private static final Duration LOOK_AFTER = Duration.ofMinutes(1);

    private final Scheduler scheduler;
    private final RunUpkeep upkeep;
    private volatile boolean ending;

    RunScheduler(
            DataSource dataSource,
            RunExecution execution,
            RunEnding endings,
            RunUpkeep upkeep,
            NachlaufSettings settings) {
        this.upkeep = upkeep;
        OneTimeTask<Void> run = Tasks.oneTime(RunQueue.RUN)
                .onFailure(new FailureHandler.OnFailureRetryLater<>(RunTransitions.AGAIN))
                .execute((instance, context) -> {
                    try {
                        execution.attempt(RunQueue.run(instance.getId()), () -> ending);
                    } catch (Fenced e) {
                        // another process carries the run on
                    } catch (InterruptedException e) {
                        Thread.currentThread().interrupt();
                        throw new IllegalStateException("the process ends; the run is left for the next start", e);
                    }
                });
        OneTimeTask<Void> settle = Tasks.oneTime(RunQueue.SETTLE)
                .onFailure(new FailureHandler.OnFailureRetryLater<>(settings.askAgain()))
                .execute((instance, context) -> {
                    try {
                        endings.settleLater(RunQueue.run(instance.getId()));
                    } catch (Fenced e) {
                        // somebody else asks
                    }
                });
        RecurringTask<Void> lookAfter = Tasks.recurring("look-after-runs", FixedDelay.of(LOOK_AFTER))
                .execute((instance, context) -> lookAfter());
        scheduler = Scheduler.create(new TransactionAwareDataSourceProxy(dataSource), run, settle)
                .startTasks(lookAfter)
                .threads(THREADS)
                .pollingInterval(settings.heartbeat().compareTo(POLLING) < 0 ? settings.heartbeat() : POLLING)
                .heartbeatInterval(settings.heartbeat())
                .missedHeartbeatsLimit(MISSED_HEARTBEATS)
                .shutdownMaxWait(settings.endPatience())
                .build();
    }

    @EventListener(ApplicationReadyEvent.class)
    void start() {
        lookAfter();
        scheduler.start();
    }

    private void lookAfter() {
        int expired = upkeep.expire();
        if (expired > 0) {
            LOG.info("{} held runs were not released in time and are discarded", expired);
        }
        int revived = upkeep.reviveIdle();
        if (revived > 0) {
            LOG.info("{} runs lay idle and are taken up again", revived);
        }
    }

    /** Without waiting for the next look at the clock. */
    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void wake(RunQueue.Due due) {
        scheduler.triggerCheckForDueExecutions();
    }

    @PreDestroy
    void stop() {
        ending = true;
        scheduler.stop();
    }
}

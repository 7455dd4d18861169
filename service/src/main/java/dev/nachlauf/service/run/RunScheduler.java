package dev.nachlauf.service.run;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.task.FailureHandler;
import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import dev.nachlauf.core.run.RunRecords.Fenced;
import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Duration;
import javax.sql.DataSource;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.datasource.TransactionAwareDataSourceProxy;
import org.springframework.stereotype.Component;

/** Gives runs to the scheduler, whose claims and heartbeats revive them when a process dies. */
@Component
class RunScheduler {
    private static final TaskDescriptor<Void> RUN = TaskDescriptor.of("run");
    private static final int AT_ONCE = 4;
    private static final int MISSED_HEARTBEATS = 4;
    private static final Duration HEARTBEAT = Duration.ofSeconds(2);
    private static final Duration POLLING = Duration.ofSeconds(1);
    private static final Duration AGAIN = Duration.ofSeconds(2);

    private static final Duration SHUTDOWN = Duration.ofSeconds(5);

    private final Scheduler scheduler;
    private final OneTimeTask<Void> task;
    private final Clock clock;

    RunScheduler(DataSource dataSource, RunExecution execution, Clock clock) {
        this.clock = clock;
        task = Tasks.oneTime(RUN)
                .onFailure(new FailureHandler.OnFailureRetryLater<>(AGAIN))
                .execute((instance, context) -> {
                    try {
                        execution.attempt(Long.parseLong(instance.getId()));
                    } catch (Fenced e) {
                        // another process carries the run on
                    }
                });
        scheduler = Scheduler.create(new TransactionAwareDataSourceProxy(dataSource), task)
                .threads(AT_ONCE)
                .pollingInterval(POLLING)
                .heartbeatInterval(HEARTBEAT)
                .missedHeartbeatsLimit(MISSED_HEARTBEATS)
                .enableImmediateExecution()
                .shutdownMaxWait(SHUTDOWN)
                .build();
    }

    @EventListener(ApplicationReadyEvent.class)
    void start() {
        scheduler.start();
    }

    /** Has a run carried out as soon as the transaction under way is committed. */
    void schedule(long run) {
        scheduler.scheduleIfNotExists(task.instance(String.valueOf(run)), clock.instant());
    }

    @PreDestroy
    void stop() {
        scheduler.stop();
    }
}

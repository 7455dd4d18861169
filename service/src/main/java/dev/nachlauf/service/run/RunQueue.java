package dev.nachlauf.service.run;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import dev.nachlauf.core.run.RunState;
import dev.nachlauf.service.NachlaufSettings;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/**
 * What is to be done with runs, kept in the scheduler's table in the transaction under way. A task that is there already
 * stays as it is; the scheduler's own client would abort the transaction over it.
 */
@Component
class RunQueue {
    static final TaskDescriptor<Void> RUN = TaskDescriptor.of("run");
    static final TaskDescriptor<Void> SETTLE = TaskDescriptor.of("settle");
    private final EntityManager entities;
    private final ApplicationEventPublisher events;
    private final Duration askAgain;
    private final Clock clock;

    RunQueue(EntityManager entities, ApplicationEventPublisher events, NachlaufSettings settings, Clock clock) {
        this.entities = entities;
        this.events = events;
        this.askAgain = settings.askAgain();
        this.clock = clock;
    }

    /** Something is due as soon as the transaction under way is committed. */
    record Due() {}

    /** Has a run carried out. Each epoch is a task of its own, so the one that is about to end is in nobody's way. */
    void carryOut(long run, long epoch, Instant when) {
        add(RUN, run + "-" + epoch, when);
        if (!when.isAfter(clock.instant())) {
            events.publishEvent(new Due());
        }
    }

    /** Tells whoever wants to know that a run has ended or is held. */
    void cameTo(long run, RunState state) {
        if (state == RunState.HELD) {
            events.publishEvent(new RunHeld(run));
        } else if (state.isFinal()) {
            events.publishEvent(new RunEnded(run));
        }
    }

    /** Has somebody ask about the rows of a run that has ended. */
    void settleLater(long run) {
        add(SETTLE, String.valueOf(run), clock.instant().plus(askAgain));
    }

    private void add(TaskDescriptor<Void> task, String instance, Instant when) {
        entities.createNativeQuery(
                        "INSERT INTO scheduled_tasks (task_name, task_instance, execution_time, picked, version)"
                                + " VALUES (:task, :instance, :at, false, 1) ON CONFLICT DO NOTHING")
                .setParameter("task", task.getTaskName())
                .setParameter("instance", instance)
                .setParameter("at", when)
                .executeUpdate();
    }

    /** The run that a task is about. */
    static long run(String instance) {
        int dash = instance.indexOf('-');
        return Long.parseLong(dash < 0 ? instance : instance.substring(0, dash));
    }
}

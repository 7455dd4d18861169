package dev.nachlauf.service.run;

import dev.nachlauf.core.run.RunState;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.util.List;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Looks after runs that nobody carries on. */
@Component
class RunUpkeep {
    private static final String EXPIRED = "It was held until nobody could be expected to release it any more.";

    private final EntityManager entities;
    private final RunQueue queue;
    private final RunLog log;
    private final Clock clock;

    RunUpkeep(EntityManager entities, RunQueue queue, RunLog log, Clock clock) {
        this.entities = entities;
        this.queue = queue;
        this.log = log;
        this.clock = clock;
    }

    /** Ends runs that were held for too long; the answer is how many. */
    @Transactional
    int expire() {
        List<?> expired = entities.createNativeQuery(
                        "UPDATE run SET state = 'discarded', ended_at = :now, held_until = NULL, note = :why"
                                + " WHERE state = 'held' AND held_until < :now RETURNING id")
                .setParameter("now", clock.instant())
                .setParameter("why", EXPIRED)
                .getResultList();
        for (Object run : expired) {
            queue.cameTo(number(run), RunState.DISCARDED);
            log.add(number(run), "Is discarded. " + EXPIRED);
        }
        return expired.size();
    }

    /** Schedules whatever lies idle: runs that nobody carries out, and ended ones with rows in doubt. */
    @Transactional
    int reviveIdle() {
        List<?> idle = entities.createNativeQuery("""
                        SELECT r.id, r.epoch FROM run r WHERE r.state IN ('waiting', 'running') AND NOT EXISTS (
                            SELECT FROM scheduled_tasks t WHERE t.task_name = 'run' AND split_part(t.task_instance, '-', 1) = r.id::text)""").getResultList();
        for (Object row : idle) {
            Object[] found = (Object[]) row;
            queue.carryOut(number(found[0]), number(found[1]), clock.instant());
        }
        List<?> inDoubt = entities.createNativeQuery("""
                        SELECT DISTINCT r.id FROM run r JOIN ledger_chunk c ON c.run_id = r.id AND c.state = 'pending'
                        WHERE r.state IN ('finished', 'failed', 'stopped', 'discarded')""").getResultList();
        inDoubt.forEach(run -> queue.settleLater(number(run)));
        return idle.size() + inDoubt.size();
    }

    private static long number(Object value) {
        return ((Number) value).longValue();
    }
}

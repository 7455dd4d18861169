package dev.nachlauf.service.notice;

import dev.nachlauf.core.job.Occasion;
import dev.nachlauf.service.run.RunEnded;
import dev.nachlauf.service.run.RunHeld;
import dev.nachlauf.service.store.Json;
import dev.nachlauf.service.store.StoredTell;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Notes whom a job wants to be told of what has just become of a run, in the transaction in which it becomes so. */
@Component
class Occasions {
    /** The outcome of the run before it; one that only looks says nothing. */
    private static final String BEFORE = "(SELECT b.state FROM run b WHERE b.job_id = r.job_id"
            + " AND b.environment = r.environment AND b.id < r.id AND b.mode IN ('write', 'hold')"
            + " AND b.state IN ('finished', 'failed') ORDER BY b.id DESC LIMIT 1)";

    private final EntityManager entities;
    private final Clock clock;

    Occasions(EntityManager entities, Clock clock) {
        this.entities = entities;
        this.clock = clock;
    }

    @EventListener
    @Transactional(propagation = Propagation.MANDATORY)
    void held(RunHeld run) {
        note(run.run());
    }

    @EventListener
    @Transactional(propagation = Propagation.MANDATORY)
    void ended(RunEnded run) {
        note(run.run());
    }

    private void note(long run) {
        Object[] facts = (Object[]) entities.createNativeQuery("SELECT r.tells, r.state, r.mode, r.open_rejects,"
                        + " coalesce(" + BEFORE + ", '') FROM run r WHERE r.id = :id")
                .setParameter("id", run)
                .getSingleResult();
        List<String> now = occasions(
                String.valueOf(facts[1]),
                String.valueOf(facts[2]),
                ((Number) facts[3]).longValue(),
                String.valueOf(facts[4]));
        for (StoredTell tell : Json.read(String.valueOf(facts[0]), StoredTell[].class)) {
            List<String> told = now.stream().filter(tell.when()::contains).toList();
            if (!told.isEmpty()) {
                entities.persist(notice(run, tell, told));
            }
        }
    }

    /** What there is to tell of a run that has come to this; nothing of one that has only looked. */
    static List<String> occasions(String state, String mode, long openRejects, String before) {
        if (mode.equals("dry-run") || mode.equals("rehearse")) {
            return List.of();
        }
        List<Occasion> occasions = new ArrayList<>();
        switch (state) {
            case "failed" -> occasions.add(Occasion.FAILED);
            case "held" -> occasions.add(Occasion.HELD);
            case "finished" -> {
                if (openRejects > 0) {
                    occasions.add(Occasion.REJECTS);
                }
                if (before.equals("failed") && !mode.equals("undo")) {
                    occasions.add(Occasion.RECOVERED);
                }
            }
            default -> {
                // somebody has stopped or discarded it, and knows
            }
        }
        return occasions.stream().map(Occasion::word).toList();
    }

    private NoticeEntity notice(long run, StoredTell tell, List<String> occasions) {
        Instant now = clock.instant();
        NoticeEntity notice = new NoticeEntity();
        notice.runId = run;
        notice.connection = tell.by();
        notice.receivers = tell.to();
        notice.occasions = occasions;
        notice.due = now;
        notice.madeAt = now;
        return notice;
    }
}

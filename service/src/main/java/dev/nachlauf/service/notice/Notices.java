package dev.nachlauf.service.notice;

import dev.nachlauf.api.NoticeView;
import dev.nachlauf.service.background.Backoff;
import dev.nachlauf.service.run.RunLog;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The record of what was told, and of what is to be told. Each change is a single conditional update. */
@Component
class Notices {
    /** Whoever has taken a notice up and dies with it leaves it to others then; longer than any receiver may take. */
    static final Duration TAKEN = Duration.ofMinutes(10);

    /** The last try is six hours after the first: a server that is down for a morning costs nobody a notice. */
    static final Backoff BACKOFF = new Backoff(Duration.ofSeconds(10), 12);

    private final NoticeRepository repository;
    private final EntityManager entities;
    private final RunLog log;
    private final Clock clock;

    Notices(NoticeRepository repository, EntityManager entities, RunLog log, Clock clock) {
        this.repository = repository;
        this.entities = entities;
        this.log = log;
        this.clock = clock;
    }

    /** What is told of a run, in its order. */
    @Transactional(readOnly = true)
    List<NoticeView> of(long run) {
        return repository.findByRunIdOrderById(run).stream().map(Notices::view).toList();
    }

    private static NoticeView view(NoticeEntity notice) {
        return new NoticeView(
                notice.id,
                notice.connection,
                notice.receivers,
                notice.occasions,
                notice.state,
                notice.note,
                notice.tries,
                notice.state.equals("wanted") ? notice.due : null,
                notice.madeAt,
                notice.toldAt);
    }

    /** Takes up some notices that are due; nobody else gets them meanwhile. */
    @Transactional
    List<NoticeEntity> take(int most) {
        Instant now = clock.instant();
        List<?> ids = entities.createNativeQuery("UPDATE notice SET due = :until, tries = tries + 1 WHERE id IN"
                        + " (SELECT id FROM notice WHERE state = 'wanted' AND due <= :now ORDER BY due LIMIT :most"
                        + " FOR UPDATE SKIP LOCKED) RETURNING id")
                .setParameter("until", now.plus(TAKEN))
                .setParameter("now", now)
                .setParameter("most", most)
                .getResultList();
        return repository.findAllById(
                ids.stream().map(id -> ((Number) id).longValue()).toList());
    }

    /** Somebody was told. */
    @Transactional
    void sent(NoticeEntity notice, String answer) {
        if (change(notice, "state = 'sent', told_at = :now, note = :note", answer)) {
            tell(notice, "is told", answer);
        }
    }

    /** Nobody can be told, whatever happens. */
    @Transactional
    void failed(NoticeEntity notice, String why) {
        if (change(notice, "state = 'failed', due = :now, note = :note", why)) {
            tell(notice, "can't be told", why);
        }
    }

    /** Nobody can be told now: it is tried again later, and given up at last. */
    @Transactional
    void later(NoticeEntity notice, String why) {
        Optional<Instant> again = BACKOFF.after(notice.tries, clock.instant());
        if (again.isEmpty()) {
            failed(notice, why + " It was tried " + notice.tries + " times.");
            return;
        }
        entities.createNativeQuery("UPDATE notice SET due = :due, note = :note" + STILL_OURS)
                .setParameter("due", again.get())
                .setParameter("note", why)
                .setParameter("id", notice.id)
                .setParameter("tries", notice.tries)
                .executeUpdate();
    }

    private static final String STILL_OURS = " WHERE id = :id AND state = 'wanted' AND tries = :tries";

    private boolean change(NoticeEntity notice, String set, String note) {
        return entities.createNativeQuery("UPDATE notice SET " + set + STILL_OURS)
                        .setParameter("now", clock.instant())
                        .setParameter("note", note)
                        .setParameter("id", notice.id)
                        .setParameter("tries", notice.tries)
                        .executeUpdate()
                > 0;
    }

    private void tell(NoticeEntity notice, String what, String note) {
        log.add(
                notice.runId,
                notice.connection + " " + what + " (" + String.join(", ", notice.occasions) + "): " + note);
    }

    /** Has what was given up tried again, from the beginning; the answer is how much that is. */
    @Transactional
    int again(long run) {
        return entities.createNativeQuery("UPDATE notice SET state = 'wanted', tries = 0, due = :now, note = ''"
                        + " WHERE run_id = :run AND state = 'failed'")
                .setParameter("now", clock.instant())
                .setParameter("run", run)
                .executeUpdate();
    }
}

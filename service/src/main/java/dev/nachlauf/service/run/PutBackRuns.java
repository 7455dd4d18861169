package dev.nachlauf.service.run;

import dev.nachlauf.service.background.Backoff;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.OptionalLong;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Runs whose results are to be put beside the file that they have read. Each change is a single conditional update. */
@Component
public class PutBackRuns {
    /** Whoever has taken a run up and dies with it leaves it to others then. */
    private static final Duration TAKEN = Duration.ofMinutes(10);

    private static final Backoff BACKOFF = new Backoff(Duration.ofSeconds(10), 8);

    private final EntityManager entities;
    private final RunRepository runs;
    private final TakenFileRepository taken;
    private final RunLog log;
    private final Clock clock;

    PutBackRuns(EntityManager entities, RunRepository runs, TakenFileRepository taken, RunLog log, Clock clock) {
        this.runs = runs;
        this.taken = taken;
        this.entities = entities;
        this.log = log;
        this.clock = clock;
    }

    /** Takes up a finished run whose results are due; nobody else gets it meanwhile. Empty where there is none. */
    @Transactional
    public OptionalLong next() {
        Instant now = clock.instant();
        return entities.createNativeQuery("UPDATE run SET put_back_due = :until, put_back_tries = put_back_tries + 1"
                        + " WHERE id = (SELECT id FROM run WHERE put_back = 'wanted' AND state = 'finished'"
                        + " AND (put_back_due IS NULL OR put_back_due <= :now)"
                        + " ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED) RETURNING id")
                .setParameter("until", now.plus(TAKEN))
                .setParameter("now", now)
                .getResultStream()
                .mapToLong(id -> ((Number) id).longValue())
                .findFirst();
    }

    /** Marks results as loaded by the job of their run before they lie in its place, so that no run takes them for news. */
    @Transactional
    public void take(long run, String hash) {
        RunEntity entity = runs.findById(run).orElseThrow();
        taken.mark(entity.jobId, entity.environment, hash, run, clock.instant());
    }

    /** The results are there. */
    @Transactional
    public void done(long run, String note) {
        end(run, "done", note);
    }

    /** They can't be there, whatever happens. */
    @Transactional
    public void failed(long run, String note) {
        end(run, "failed", note);
    }

    private void end(long run, String state, String note) {
        int ended = entities.createNativeQuery("UPDATE run SET put_back = :state, put_back_note = :note,"
                        + " put_back_due = NULL WHERE id = :id AND put_back = 'wanted'")
                .setParameter("id", run)
                .setParameter("state", state)
                .setParameter("note", note)
                .executeUpdate();
        if (ended > 0) {
            log.add(run, note);
        }
    }

    /** The place can't be reached now: it is tried again later, and given up at last. */
    @Transactional
    public void later(long run, String why) {
        Object tries = entities.createNativeQuery("SELECT put_back_tries FROM run WHERE id = :id FOR NO KEY UPDATE")
                .setParameter("id", run)
                .getSingleResult();
        int tried = ((Number) tries).intValue();
        BACKOFF.after(tried, clock.instant())
                .ifPresentOrElse(
                        again -> again(run, why + " It is tried again.", again),
                        () -> failed(run, why + " It was tried " + tried + " times."));
    }

    private void again(long run, String note, Instant due) {
        entities.createNativeQuery("UPDATE run SET put_back_note = :note, put_back_due = :due"
                        + " WHERE id = :id AND put_back = 'wanted'")
                .setParameter("id", run)
                .setParameter("note", note)
                .setParameter("due", due)
                .executeUpdate();
    }
}

package dev.nachlauf.service.retention;

import dev.nachlauf.service.background.Worker;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.file.ScratchSpace;
import jakarta.annotation.PreDestroy;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Removes what nothing needs any more. Every removal asks once more whether that is so, under the lock of what it removes;
 * so two services that tidy the same installation, and whoever uses a file in this moment, do each other no harm.
 */
@Component
class Retention {
    private static final Logger LOG = LoggerFactory.getLogger(Retention.class);
    /** So many are looked up at once. */
    private static final int AT_ONCE = 500;

    /** A run that still needs what it has read and written. */
    private static final String NEEDS = "(r.ended_at IS NULL OR r.ended_at > :before OR r.open_rejects > 0"
            + " OR EXISTS (SELECT FROM ledger_chunk c WHERE c.run_id = r.id AND c.state = 'pending'))";

    private static final String UNNEEDED_FILE = "f.removed_at IS NULL AND f.used_at < :unused AND NOT EXISTS"
            + " (SELECT FROM run_source s JOIN run r ON r.id = s.run_id WHERE s.hash = f.hash AND " + NEEDS + ")";

    private final RetentionSettings settings;
    private final FileStore files;
    private final ScratchSpace scratch;
    private final EntityManager entities;
    private final TransactionTemplate transactions;
    private final Clock clock;
    private final Worker hourly =
            new Worker("retention", "what nobody needs any more could not be removed", this::tidyAll);

    Retention(
            RetentionSettings settings,
            FileStore files,
            ScratchSpace scratch,
            EntityManager entities,
            TransactionTemplate transactions,
            Clock clock) {
        this.settings = settings;
        this.files = files;
        this.scratch = scratch;
        this.entities = entities;
        this.transactions = transactions;
        this.clock = clock;
    }

    @EventListener(ApplicationReadyEvent.class)
    void start() {
        hourly.start(Duration.ofMinutes(1), Duration.ofHours(1));
    }

    @PreDestroy
    void stop() {
        hourly.close();
    }

    private void tidyAll() {
        Removed removed = tidy();
        if (removed.anything()) {
            LOG.info(
                    "removed {} files, the lines of {} runs, {} folders that were left behind",
                    removed.files(),
                    removed.ledgers(),
                    removed.leftBehind());
        }
    }

    /** What one round has removed. */
    record Removed(int files, int ledgers, int leftBehind) {
        boolean anything() {
            return files + ledgers + leftBehind > 0;
        }
    }

    /** One round. */
    Removed tidy() {
        return new Removed(unneededFiles(), oldLedgers(), scratch.removeLeftBehind() + files.removeLeftBehind());
    }

    private int unneededFiles() {
        int removed = 0;
        List<String> found;
        int before;
        do {
            before = removed;
            found = unneeded();
            for (String hash : found) {
                removed += files.removeIf(hash, () -> forget(hash)) ? 1 : 0;
            }
        } while (found.size() == AT_ONCE && removed > before);
        return removed;
    }

    private List<String> unneeded() {
        List<?> found = transactions.execute(status -> entities.createNativeQuery(
                        "SELECT f.hash FROM stored_file f WHERE " + UNNEEDED_FILE + " LIMIT " + AT_ONCE)
                .setParameter("unused", clock.instant().minus(settings.uploads()))
                .setParameter("before", clock.instant().minus(settings.files()))
                .getResultList());
        return found == null ? List.of() : found.stream().map(String::valueOf).toList();
    }

    /** Whether a file is still unneeded; then a place that says it has not changed is not believed any more. */
    private boolean forget(String hash) {
        boolean unneeded = !entities.createNativeQuery(
                        "SELECT f.hash FROM stored_file f WHERE f.hash = :hash AND " + UNNEEDED_FILE)
                .setParameter("hash", hash)
                .setParameter("unused", clock.instant().minus(settings.uploads()))
                .setParameter("before", clock.instant().minus(settings.files()))
                .getResultList()
                .isEmpty();
        if (unneeded) {
            entities.createNativeQuery("DELETE FROM fetched_file WHERE hash = :hash")
                    .setParameter("hash", hash)
                    .executeUpdate();
        }
        return unneeded;
    }

    private int oldLedgers() {
        Instant before = clock.instant().minus(settings.ledger());
        List<?> runs = transactions.execute(status -> entities.createNativeQuery(
                        "SELECT r.id FROM run r WHERE r.lines_removed_at IS NULL AND NOT " + NEEDS)
                .setParameter("before", before)
                .getResultList());
        int removed = 0;
        for (Object run : runs == null ? List.of() : runs) {
            removed += removeLines(((Number) run).longValue(), before) ? 1 : 0;
        }
        return removed;
    }

    private boolean removeLines(long run, Instant before) {
        return Boolean.TRUE.equals(transactions.execute(status -> {
            boolean ours = entities.createNativeQuery("UPDATE run r SET lines_removed_at = :now"
                                    + " WHERE r.id = :run AND r.lines_removed_at IS NULL AND NOT " + NEEDS)
                            .setParameter("now", clock.instant())
                            .setParameter("run", run)
                            .setParameter("before", before)
                            .executeUpdate()
                    == 1;
            if (ours) {
                for (String lines : List.of("ledger_payload", "key_history")) {
                    entities.createNativeQuery("DELETE FROM " + lines + " WHERE run_id = :run")
                            .setParameter("run", run)
                            .executeUpdate();
                }
            }
            return ours;
        }));
    }
}

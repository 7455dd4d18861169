package dev.nachlauf.service.record;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.run.Chunk;
import dev.nachlauf.core.run.ChunkCodec;
import dev.nachlauf.core.run.KeyIndex;
import dev.nachlauf.core.run.LedgerChunks;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.LedgerWrites;
import dev.nachlauf.service.background.Worker;
import dev.nachlauf.service.run.LedgerOfRun;
import dev.nachlauf.service.run.LedgerStage;
import dev.nachlauf.service.run.RunEnded;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.service.run.WrittenRun;
import dev.nachlauf.service.store.Json;
import jakarta.annotation.PreDestroy;
import jakarta.persistence.EntityManager;
import java.time.Duration;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Makes the index of a run's ledger when the run has ended, beside everything else. Whatever kept it from that, it is made
 * later; two services that make the same one do each other no harm.
 */
@Component
class HistoryIndexing {
    private static final Logger LOG = LoggerFactory.getLogger(HistoryIndexing.class);
    private static final int AT_ONCE = 100;

    private final LedgerOfRun ledger;
    private final RunViews runs;
    private final EntityManager entities;
    private final TransactionTemplate transactions;
    private final Worker worker =
            new Worker("history", "the history of records could not be brought up to date", this::indexAll);

    HistoryIndexing(LedgerOfRun ledger, RunViews runs, EntityManager entities, TransactionTemplate transactions) {
        this.ledger = ledger;
        this.runs = runs;
        this.entities = entities;
        this.transactions = transactions;
    }

    @EventListener(ApplicationReadyEvent.class)
    void start() {
        worker.start(Duration.ofSeconds(1), Duration.ofMinutes(1));
    }

    @PreDestroy
    void stop() {
        worker.close();
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void ended(RunEnded run) {
        worker.wake();
    }

    private void indexAll() {
        while (indexSome() == AT_ONCE) {
            LOG.info("{} runs were made ready for the history of records", AT_ONCE);
        }
    }

    /** Brings the index up to date, some runs at once; the answer is for how many that was done. */
    synchronized int indexSome() {
        int done = 0;
        for (long run : open()) {
            done += indexOne(run) ? 1 : 0;
        }
        return done;
    }

    /** Whether runs have ended that are not in the index yet. */
    boolean isBehind() {
        return !open().isEmpty();
    }

    private List<Long> open() {
        List<?> found = transactions.execute(status -> entities.createNativeQuery(
                        "SELECT r.id FROM run r WHERE NOT r.indexed AND r.ended_at IS NOT NULL"
                                + " AND r.lines_removed_at IS NULL AND NOT EXISTS"
                                + " (SELECT FROM ledger_chunk c WHERE c.run_id = r.id AND c.state = 'pending')"
                                + " ORDER BY r.id DESC LIMIT " + AT_ONCE)
                .getResultList());
        return found == null
                ? List.of()
                : found.stream().map(id -> ((Number) id).longValue()).toList();
    }

    /** A run of which the ledger can't be read keeps no other one from the index. */
    private boolean indexOne(long run) {
        try {
            index(run);
            return true;
        } catch (CannotGoOn | IllegalArgumentException e) {
            LOG.warn("run {} can't be made ready for the history of records", run, e);
            return false;
        }
    }

    private void index(long id) {
        WrittenRun run = runs.written(id);
        LedgerChunks chunks = ledger.chunks(id, LedgerStage.WRITTEN);
        transactions.executeWithoutResult(status -> {
            // whoever comes second finds it done
            boolean ours = entities.createNativeQuery("UPDATE run SET indexed = true WHERE id = :id AND NOT indexed")
                            .setParameter("id", id)
                            .executeUpdate()
                    == 1;
            for (int write = 0; ours && write < run.writes().writes().size(); write++) {
                index(run, write, chunks);
            }
        });
    }

    private void index(WrittenRun run, int write, LedgerChunks chunks) {
        LedgerWrites.Write written = run.writes().writes().get(write);
        KeyIndex index = new KeyIndex(segment -> keep(run, write, written, segment));
        for (Chunk.Head head : chunks.chunks()) {
            Chunk chunk = chunks.chunk(head.batch());
            for (LedgerRow line : ChunkCodec.rows(chunk, run.writes())) {
                if (line.write() == write && line.wrote() && line.key() != null) {
                    index.add(line.key().subList(0, written.key().size()), head.batch());
                }
            }
        }
        index.finish();
    }

    private void keep(WrittenRun run, int write, LedgerWrites.Write written, KeyIndex.Segment segment) {
        KeyHistoryEntity history = new KeyHistoryEntity();
        history.runId = run.id();
        history.writeNo = (short) write;
        history.environment = run.environment();
        history.connection = written.connection();
        history.records = written.records();
        history.keyFields = Json.write(written.key());
        history.keys = segment.keys();
        entities.persist(history);
        for (KeyIndex.Block block : segment.blocks()) {
            KeyBlockEntity kept = new KeyBlockEntity();
            kept.historyId = history.id;
            kept.firstHash = block.firstHash();
            kept.bytes = block.bytes();
            entities.persist(kept);
        }
        entities.flush();
        entities.clear();
    }
}

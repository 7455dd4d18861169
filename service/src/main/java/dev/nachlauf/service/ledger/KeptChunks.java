package dev.nachlauf.service.ledger;

import dev.nachlauf.core.run.Chunk;
import dev.nachlauf.core.run.LedgerChunks;
import dev.nachlauf.service.run.LedgerStage;
import jakarta.persistence.EntityManager;
import java.util.List;
import java.util.Objects;
import org.springframework.transaction.support.TransactionTemplate;

/** The ledger of a run for those who read it; one payload in memory. */
final class KeptChunks implements LedgerChunks {
    private final long run;
    private final LedgerStage stage;
    private final EntityManager entities;
    private final TransactionTemplate transactions;

    KeptChunks(long run, LedgerStage stage, EntityManager entities, TransactionTemplate transactions) {
        this.run = run;
        this.stage = stage;
        this.entities = entities;
        this.transactions = transactions;
    }

    @Override
    public List<Chunk.Head> chunks() {
        return Objects.requireNonNull(
                transactions.execute(status -> LedgerRecords.heads(entities, run, stage, 0).stream()
                        .map(ChunkEntity::head)
                        .toList()));
    }

    @Override
    public Chunk chunk(int batch) {
        return Objects.requireNonNull(transactions.execute(status -> {
            ChunkId id = ChunkId.of(run, stage, batch);
            PayloadEntity payload = Ledger.payload(entities, id);
            return new Chunk(entities.find(ChunkEntity.class, id).head(), payload.rows, payload.rejects);
        }));
    }
}

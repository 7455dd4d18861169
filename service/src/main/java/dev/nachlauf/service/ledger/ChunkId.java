package dev.nachlauf.service.ledger;

import dev.nachlauf.service.run.LedgerStage;
import jakarta.persistence.Embeddable;

/** Names a chunk. */
@Embeddable
record ChunkId(long runId, short stage, int batch) implements java.io.Serializable {
    static ChunkId of(long run, LedgerStage stage, int batch) {
        return new ChunkId(run, stage.number(), batch);
    }
}

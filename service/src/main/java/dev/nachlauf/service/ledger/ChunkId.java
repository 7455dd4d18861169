package dev.nachlauf.service.ledger;

import jakarta.persistence.Embeddable;

/** Names a chunk. */
@Embeddable
record ChunkId(long runId, short writeNo, int batch) implements java.io.Serializable {
    /** There is one write so far. */
    static final short FIRST_WRITE = 1;

    static ChunkId of(long run, int batch) {
        return new ChunkId(run, FIRST_WRITE, batch);
    }
}

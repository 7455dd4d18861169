package dev.nachlauf.service.ledger;

import jakarta.persistence.Column;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

/** The payload of a chunk; it is inserted and deleted, never updated. */
@Entity
@Table(name = "ledger_payload")
class PayloadEntity {
    @EmbeddedId
    ChunkId id;

    @Column(updatable = false)
    byte[] rows;

    @Column(updatable = false)
    byte[] rejects;

    /** For Hibernate. */
    protected PayloadEntity() {}

    PayloadEntity(ChunkId id, byte[] rows, byte[] rejects) {
        this.id = id;
        this.rows = rows;
        this.rejects = rejects;
    }
}

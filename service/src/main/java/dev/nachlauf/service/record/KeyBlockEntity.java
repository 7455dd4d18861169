package dev.nachlauf.service.record;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;

/** A block of a segment; it is never changed. */
@Entity
@Table(name = "key_history_block")
@IdClass(KeyBlockEntity.Key.class)
class KeyBlockEntity {
    @Id
    long historyId;

    @Id
    long firstHash;

    byte[] bytes;

    /** Names a block. */
    record Key(long historyId, long firstHash) implements Serializable {}
}

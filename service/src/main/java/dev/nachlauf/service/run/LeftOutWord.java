package dev.nachlauf.service.run;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.time.Instant;

/** A person's word about rows of a held run. */
@Entity
@Table(name = "left_out")
@IdClass(LeftOutWord.Key.class)
class LeftOutWord {
    @Id
    long runId;

    @Id
    int word;

    String rows;
    boolean leftOut;
    String saidBy;
    Instant saidAt;

    /** Names a word. */
    record Key(long runId, int word) implements Serializable {}
}

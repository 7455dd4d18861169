package dev.nachlauf.service.record;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;

/** A segment of the index of one write of a run. */
@Entity
@Table(name = "key_history")
class KeyHistoryEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "key_history")
    @SequenceGenerator(name = "key_history", sequenceName = "key_history_seq", allocationSize = 1)
    Long id;

    long runId;
    short writeNo;
    String environment;
    String connection;
    String records;
    String keyFields;
    int keys;
}

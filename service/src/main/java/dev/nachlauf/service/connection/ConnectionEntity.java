package dev.nachlauf.service.connection;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import java.time.Instant;

/** A saved connection. */
@Entity
@Table(name = "connection")
class ConnectionEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "connection_seq")
    @SequenceGenerator(name = "connection_seq", sequenceName = "connection_seq", allocationSize = 1)
    Long id;

    String name;
    String title;
    String type;
    String document;
    Instant savedAt;
    String savedBy;
}

package dev.nachlauf.service.shared;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import java.time.Instant;

/** One version of a document. */
@Entity
@Table(name = "shared_version")
class SharedVersion {
    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "shared_version_seq")
    @SequenceGenerator(name = "shared_version_seq", sequenceName = "shared_version_seq", allocationSize = 1)
    Long id;

    long documentId;
    int number;
    String title;
    String document;
    Instant savedAt;
    String savedBy;
}

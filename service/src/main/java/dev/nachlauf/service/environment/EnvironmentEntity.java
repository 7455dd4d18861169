package dev.nachlauf.service.environment;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "environment")
class EnvironmentEntity {
    @Id
    String name;

    String title;
    boolean live;

    /** As it was written. */
    String document;

    Instant savedAt;
    String savedBy;
}

package dev.nachlauf.service.access;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A token without its secret. */
@Entity
@Table(name = "access_token")
class TokenEntity {
    @Id
    String name;

    @Enumerated(EnumType.STRING)
    Role role;

    /** Whether sensitive values are shown to its holder. */
    boolean seesSensitive;

    String hash;
    Instant madeAt;
    String madeBy;

    @Nullable
    Instant lastUsedAt;

    @Nullable
    Instant retiredAt;
}

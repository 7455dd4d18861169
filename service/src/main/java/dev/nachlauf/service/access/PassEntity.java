package dev.nachlauf.service.access;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** What a browser holds instead of a token, by its hash. */
@Entity
@Table(name = "access_pass")
class PassEntity {
    /** A link opens one session; a session stands for its token. */
    enum Kind {
        LINK,
        SESSION
    }

    @Id
    String hash;

    @Enumerated(EnumType.STRING)
    Kind kind;

    String token;
    Instant expiresAt;
}

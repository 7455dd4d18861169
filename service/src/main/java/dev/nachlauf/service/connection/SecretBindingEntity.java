package dev.nachlauf.service.connection;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** The host to which a secret was first sent. */
@Entity
@Table(name = "secret_binding")
class SecretBindingEntity {
    /** As connections write it, such as {@code env:NACHLAUF_SECRET_REGISTER}. */
    @Id
    String reference;

    String host;

    /** The connection that used it first. */
    String connection;

    Instant boundAt;
}

package dev.nachlauf.service.connection;

import java.time.Instant;
import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface SecretBindingRepository extends JpaRepository<SecretBindingEntity, String> {
    List<SecretBindingEntity> findAllByOrderByReference();

    /** Binds a secret unless it is bound, so that of two first uses one counts. */
    @Modifying
    @Query(
            value = "INSERT INTO secret_binding (reference, host, connection, bound_at)"
                    + " VALUES (:reference, :host, :connection, :now) ON CONFLICT DO NOTHING",
            nativeQuery = true)
    int bind(String reference, String host, String connection, Instant now);
}

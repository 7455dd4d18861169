package dev.nachlauf.service.access;

import java.time.Instant;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface PassRepository extends JpaRepository<PassEntity, String> {
    /** Takes a pass away; of several who try only one does it. */
    @Modifying
    @Query("DELETE FROM PassEntity p WHERE p.hash = :hash AND p.kind = :kind AND p.expiresAt > :now")
    int take(String hash, PassEntity.Kind kind, Instant now);

    @Modifying
    @Query("DELETE FROM PassEntity p WHERE p.expiresAt <= :now")
    int removeExpired(Instant now);

    @Modifying
    @Query("DELETE FROM PassEntity p WHERE p.token = :token")
    int removeOf(String token);
}

package dev.nachlauf.service.access;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface TokenRepository extends JpaRepository<TokenEntity, String> {
    List<TokenEntity> findAllByOrderByName();

    Optional<TokenEntity> findByHashAndRetiredAtIsNull(String hash);

    /** The token of a pass that is still good. */
    @Query("SELECT t FROM TokenEntity t, PassEntity p WHERE p.token = t.name AND p.hash = :hash AND p.kind = :kind"
            + " AND p.expiresAt > :now AND t.retiredAt IS NULL")
    Optional<TokenEntity> findByPass(String hash, PassEntity.Kind kind, Instant now);

    /** Makes a token unless there is, or was, one of this name. */
    @Modifying
    @Query(
            value = "INSERT INTO access_token (name, role, sees_sensitive, hash, made_at, made_by)"
                    + " VALUES (:name, :role, :sees, :hash, :now, :by) ON CONFLICT DO NOTHING",
            nativeQuery = true)
    int make(String name, String role, boolean sees, String hash, Instant now, String by);

    @Modifying
    @Query("UPDATE TokenEntity t SET t.hash = :hash WHERE t.name = :name AND t.retiredAt IS NULL")
    int renew(String name, String hash);

    @Modifying(clearAutomatically = true)
    @Query("UPDATE TokenEntity t SET t.retiredAt = :now WHERE t.name = :name AND t.retiredAt IS NULL")
    int retire(String name, Instant now);

    /** Notes a use, but not every one: that would be a write with every look. */
    @Modifying
    @Query("UPDATE TokenEntity t SET t.lastUsedAt = :now"
            + " WHERE t.name = :name AND (t.lastUsedAt IS NULL OR t.lastUsedAt < :before)")
    int used(String name, Instant now, Instant before);

    @Query("SELECT count(t) FROM TokenEntity t WHERE t.role = :role AND t.retiredAt IS NULL")
    long countActive(Role role);
}

package dev.nachlauf.service.file;

import java.time.Instant;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;
import org.springframework.transaction.annotation.Transactional;

interface StoredFileRepository extends JpaRepository<StoredFile, String> {
    /** Notes a content, also where somebody else notes the same one in this moment. */
    @Modifying
    @Transactional
    @Query(
            value = "INSERT INTO stored_file (hash, size, stored_at, used_at) VALUES (:hash, :size, :now, :now)"
                    + " ON CONFLICT (hash) DO UPDATE SET used_at = :now, removed_at = NULL",
            nativeQuery = true)
    int note(String hash, long size, Instant now);

    /** Notes that somebody is about to use it. */
    @Modifying
    @Transactional
    @Query("UPDATE StoredFile f SET f.usedAt = :now WHERE f.hash = :hash")
    int used(String hash, Instant now);

    /** Marks it as removed, unless it is already. */
    @Modifying
    @Transactional
    @Query("UPDATE StoredFile f SET f.removedAt = :now WHERE f.hash = :hash AND f.removedAt IS NULL")
    int remove(String hash, Instant now);
}

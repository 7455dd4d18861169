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
            value =
                    "INSERT INTO stored_file (hash, size, stored_at) VALUES (:hash, :size, :now) ON CONFLICT DO NOTHING",
            nativeQuery = true)
    int note(String hash, long size, Instant now);
}

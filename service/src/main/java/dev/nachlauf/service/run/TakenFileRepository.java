package dev.nachlauf.service.run;

import java.time.Instant;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface TakenFileRepository extends JpaRepository<TakenFile, TakenFile.Id> {
    /** Marks a content as loaded by a job, where it is not marked yet. */
    @Modifying
    @Query(
            value = "INSERT INTO taken_file (job_id, environment, hash, run_id, taken_at)"
                    + " VALUES (:job, :environment, :hash, :run, :now)"
                    + " ON CONFLICT DO NOTHING",
            nativeQuery = true)
    int mark(long job, String environment, String hash, long run, Instant now);
}

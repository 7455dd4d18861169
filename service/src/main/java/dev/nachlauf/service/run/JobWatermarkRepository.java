package dev.nachlauf.service.run;

import jakarta.persistence.LockModeType;
import java.time.Instant;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface JobWatermarkRepository extends JpaRepository<JobWatermark, JobWatermark.Id> {
    /** Puts the first watermark of a job where there is none. */
    @Modifying
    @Query(
            value = "INSERT INTO job_watermark (job_id, environment, value, run_id, moved_at)"
                    + " VALUES (:job, :environment, :value, :run, :now)"
                    + " ON CONFLICT DO NOTHING",
            nativeQuery = true)
    int begin(long job, String environment, String value, long run, Instant now);

    /** The watermark of a job, which nobody else moves until the transaction ends. */
    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select w from JobWatermark w where w.id = :id")
    JobWatermark locked(JobWatermark.Id id);
}

package dev.nachlauf.service.job;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface JobVersionRepository extends JpaRepository<JobVersionEntity, Long> {
    Optional<JobVersionEntity> findByJobIdAndNumber(long jobId, int number);

    List<JobVersionEntity> findByJobIdOrderByNumberDesc(long jobId);

    /** The newest version of every job. */
    @Query("select v from JobVersionEntity v, JobEntity j where v.jobId = j.id and v.number = j.latest")
    List<JobVersionEntity> newest();
}

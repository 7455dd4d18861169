package dev.nachlauf.service.job;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface JobVersionRepository extends JpaRepository<JobVersionEntity, Long> {
    Optional<JobVersionEntity> findByJobIdAndNumber(long jobId, int number);

    List<JobVersionEntity> findByJobIdOrderByNumberDesc(long jobId);
}

package dev.nachlauf.service.run;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface RunLogRepository extends JpaRepository<RunLogEntity, Long> {
    List<RunLogEntity> findByRunIdOrderById(long runId);

    Optional<RunLogEntity> findFirstByRunIdOrderByIdDesc(long runId);
}

package dev.nachlauf.service.job;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface PromotionRepository extends JpaRepository<PromotionEntity, Long> {
    Optional<PromotionEntity> findFirstByJobIdAndEnvironmentOrderByIdDesc(long jobId, String environment);

    List<PromotionEntity> findByJobIdOrderByIdDesc(long jobId);
}

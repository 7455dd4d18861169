package dev.nachlauf.service.job;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface JobRepository extends JpaRepository<JobEntity, Long> {
    Optional<JobEntity> findByName(String name);

    List<JobEntity> findAllByOrderByName();
}

package dev.nachlauf.service.environment;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface EnvironmentRepository extends JpaRepository<EnvironmentEntity, String> {
    List<EnvironmentEntity> findAllByOrderByName();
}

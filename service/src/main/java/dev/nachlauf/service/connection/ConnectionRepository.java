package dev.nachlauf.service.connection;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface ConnectionRepository extends JpaRepository<ConnectionEntity, Long> {
    Optional<ConnectionEntity> findByName(String name);

    List<ConnectionEntity> findAllByOrderByName();
}

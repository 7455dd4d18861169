package dev.nachlauf.service.shared;

import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface SharedVersionRepository extends JpaRepository<SharedVersion, Long> {
    Optional<SharedVersion> findByDocumentIdAndNumber(long documentId, int number);
}

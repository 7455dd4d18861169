package dev.nachlauf.service.shared;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface SharedDocumentRepository extends JpaRepository<SharedDocument, Long> {
    List<SharedDocument> findByKindOrderByName(String kind);

    Optional<SharedDocument> findByKindAndName(String kind, String name);
}

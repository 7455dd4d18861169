package dev.nachlauf.service.notice;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface NoticeRepository extends JpaRepository<NoticeEntity, Long> {
    List<NoticeEntity> findByRunIdOrderById(long run);
}

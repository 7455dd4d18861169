package dev.nachlauf.service.access;

import java.util.List;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;

interface ActivityRepository extends JpaRepository<ActivityEntity, Long> {
    List<ActivityEntity> findByIdLessThanOrderByIdDesc(long before, Limit limit);
}

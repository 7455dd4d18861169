package dev.nachlauf.service.run;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface RunRepository extends JpaRepository<RunEntity, Long> {
    List<RunEntity> findByIdLessThanOrderByIdDesc(long before, Limit limit);

    List<RunEntity> findByJobNameAndIdLessThanOrderByIdDesc(String jobName, long before, Limit limit);

    Optional<RunEntity> findFirstByJobNameOrderByIdDesc(String jobName);

    Optional<RunEntity> findFirstByJobIdAndStateIn(long jobId, Collection<String> states);

    /** Takes a run over, whoever had it before. */
    @Modifying
    @Query("update RunEntity r set r.epoch = r.epoch + 1, r.state = 'running', r.note = '',"
            + " r.startedAt = coalesce(r.startedAt, :now) where r.id = :id and r.state in ('waiting', 'running')")
    int claim(long id, Instant now);

    /** Makes sure that a run is still ours; the row stays locked until the transaction ends. */
    @Modifying
    @Query("update RunEntity r set r.unreachableSince = null where r.id = :id and r.epoch = :epoch")
    int fence(long id, long epoch);

    @Modifying
    @Query("update RunEntity r set r.rowsRead = :rows where r.id = :id and r.epoch = :epoch")
    int rows(long id, long epoch, long rows);

    @Modifying
    @Query("update RunEntity r set r.stopRequested = true where r.id = :id")
    int requestStop(long id);
}

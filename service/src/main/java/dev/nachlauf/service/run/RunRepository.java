package dev.nachlauf.service.run;

import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface RunRepository extends JpaRepository<RunEntity, Long> {
    List<RunEntity> findByIdLessThanOrderByIdDesc(long before, Limit limit);

    List<RunEntity> findByJobNameAndIdLessThanOrderByIdDesc(String jobName, long before, Limit limit);

    Optional<RunEntity> findFirstByJobNameOrderByIdDesc(String jobName);

    Optional<RunEntity> findFirstByJobIdAndStateAndSourceNameNotOrderByIdDesc(
            long jobId, String state, String sourceName);

    Optional<RunEntity> findFirstByJobIdAndStateIn(long jobId, Collection<String> states);

    /** Whether somebody wants the run to end; empty where there is none. */
    @Query("select r.stopRequested from RunEntity r where r.id = :id")
    Optional<Boolean> stopRequested(long id);
}

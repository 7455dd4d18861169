package dev.nachlauf.service.run;

import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface RunRepository extends JpaRepository<RunEntity, Long> {
    /** What lists read. */
    String ROW =
            "select new dev.nachlauf.service.run.RunRow(r.id, r.jobName, r.jobVersion, r.state, r.mode, r.environment, r.plannedFirst, r.releasedAt, r.note, r.reasons,"
                    + " r.totals, r.rowsRead, r.balanced, r.openRejects, r.foreseenRejects, r.sourceName, r.undoes, r.startedBy,"
                    + " r.createdAt, r.startedAt, r.endedAt) from RunEntity r ";

    /** @param environment where they ran; empty for anywhere */
    @Query(ROW + "where r.id < :before and (:environment = '' or r.environment = :environment) order by r.id desc")
    List<RunRow> rows(String environment, long before, Limit limit);

    /** @param environment where they ran; empty for anywhere */
    @Query(ROW + "where r.jobName = :job and r.id < :before and (:environment = '' or r.environment = :environment)"
            + " order by r.id desc")
    List<RunRow> rowsOf(String job, String environment, long before, Limit limit);

    @Query(ROW + "where r.id in :ids")
    List<RunRow> rows(Collection<Long> ids);

    /**
     * The newest run of each job that has run; asked one by one from the index, however many runs there are.
     *
     * @param environment where it ran; empty for anywhere
     */
    @Query(
            value = "SELECT n.id FROM job j CROSS JOIN LATERAL"
                    + " (SELECT r.id FROM run r WHERE r.job_name = j.name"
                    + " AND (:environment = '' OR r.environment = :environment) ORDER BY r.id DESC LIMIT 1) n"
                    + " WHERE j.name IN (:jobs)",
            nativeQuery = true)
    List<Long> newestOf(Collection<String> jobs, String environment);

    /** The last runs of a job in an environment that have written all that they have read, newest first. */
    @Query(
            "select r from RunEntity r where r.jobId = :job and r.environment = :environment and r.state = 'finished' and r.mode in ('write', 'hold')"
                    + " and r.sourceName <> :nothing and r.chosenRows is null and r.chosenWhere is null and r.resubmits is null order by r.id desc")
    List<RunEntity> lastWritten(long job, String environment, String nothing, Limit most);

    /** The newest run that undoes another. */
    @Query("select max(r.id) from RunEntity r where r.undoes = :run")
    Optional<Long> undoing(long run);

    Optional<RunEntity> findFirstByJobIdAndEnvironmentAndStateIn(
            long jobId, String environment, Collection<String> states);

    Optional<RunEntity> findFirstByEnvironmentAndStateIn(String environment, Collection<String> states);

    /** Whether somebody wants the run to end; empty where there is none. */
    @Query("select r.stopRequested from RunEntity r where r.id = :id")
    Optional<Boolean> stopRequested(long id);
}

package dev.nachlauf.service.reject;

import dev.nachlauf.api.RejectGroup;
import java.util.List;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface RejectRepository extends JpaRepository<RejectEntity, Long> {
    List<RejectEntity> findByRunIdAndIdGreaterThanOrderById(long runId, long after, Limit limit);

    List<RejectEntity> findByIdGreaterThanOrderById(long after, Limit limit);

    @Query("select r from RejectEntity r where r.id > :after and r.runId in"
            + " (select u.id from RunEntity u where u.jobName = :job) order by r.id")
    List<RejectEntity> ofJob(String job, long after, Limit limit);

    /** As many new ids. They are taken in the transaction that uses them, so a crash takes back both or none. */
    @Query(value = "select nextval('reject_seq') from generate_series(1, :count)", nativeQuery = true)
    List<Long> newIds(int count);

    /** Removes the rejects of a run that have a state. */
    @Modifying
    @Query("delete from RejectEntity r where r.runId = :run and r.state = :state")
    int forget(long run, String state);

    long countByRunIdAndState(long run, String state);

    /** Rejects whose problems hold a text. */
    @Query(
            value = "select * from reject where state = :state and id > :after and problems like :part order by id",
            nativeQuery = true)
    List<RejectEntity> openWith(String part, String state, long after, Limit limit);

    @Query(
            "select new dev.nachlauf.api.RejectGroup(r.code, r.field, r.byTarget, count(r)) from RejectEntity r"
                    + " where r.runId = :run group by r.code, r.field, r.byTarget order by count(r) desc, r.code, r.field, r.byTarget")
    List<RejectGroup> groups(long run);
}

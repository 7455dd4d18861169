package dev.nachlauf.service.reject;

import java.util.List;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface RejectRepository extends JpaRepository<RejectEntity, Long> {
    /** Those of a run, and those of earlier ones whose rows it has rejected once more; without those in a state. */
    @Query("select r from RejectEntity r where (r.runId = :run or r.againIn = :run) and r.state <> :without"
            + " and r.id > :after order by r.id")
    List<RejectEntity> ofRun(long run, String without, long after, Limit limit);

    @Query("select r from RejectEntity r where r.state <> :without and r.id > :after order by r.id")
    List<RejectEntity> all(String without, long after, Limit limit);

    @Query("select r from RejectEntity r where r.id > :after and r.state <> :without and r.runId in"
            + " (select u.id from RunEntity u where u.jobName = :job) order by r.id")
    List<RejectEntity> ofJob(String job, String without, long after, Limit limit);

    /** As many new ids. They are taken in the transaction that uses them, so a crash takes back both or none. */
    @Query(value = "select nextval('reject_seq') from generate_series(1, :count)", nativeQuery = true)
    List<Long> newIds(int count);

    /** Removes the rejects of a run that have a state. */
    @Modifying
    @Query("delete from RejectEntity r where r.runId = :run and r.state = :state")
    int forget(long run, String state);

    /** Gives the open rejects of a run to one that sends their rows again; those of no row of the source have nothing to send. */
    @Modifying
    @Query("update RejectEntity r set r.sentBy = :sending where r.runId = :rejecting and r.state = 'open'"
            + " and r.sentBy is null and r.rowNumber > 0")
    int give(long rejecting, long sending);

    @Modifying
    @Query("update RejectEntity r set r.sentBy = :sending where r.runId = :rejecting and r.state = 'open'"
            + " and r.sentBy is null and r.rowNumber > 0 and r.id in :ids")
    int give(long rejecting, List<Long> ids, long sending);

    /** A page of the rejects whose rows a run sends again, in the order of the source. */
    @Query(
            "select r from RejectEntity r where r.sentBy = :sending and (r.rowNumber > :row or r.rowNumber = :row and r.id > :id)"
                    + " order by r.rowNumber, r.id")
    List<RejectEntity> sentBy(long sending, long row, long id, Limit limit);

    /** The same, with those that a run which has ended has sent. */
    @Query("select r from RejectEntity r where (r.sentBy = :sending or r.closedBy = :sending or r.againIn = :sending)"
            + " and (r.rowNumber > :row or r.rowNumber = :row and r.id > :id) order by r.rowNumber, r.id")
    List<RejectEntity> readBy(long sending, long row, long id, Limit limit);

    @Query("select count(r) > 0 from RejectEntity r"
            + " where (r.sentBy = :sending or r.closedBy = :sending or r.againIn = :sending) and r.rows > 1")
    boolean standsForSeveral(long sending);

    /** The open rejects of a run from one row of the source to another. */
    @Query("select r from RejectEntity r where r.runId = :run and r.rowNumber between :first and :last"
            + " and r.state = 'open' order by r.rowNumber, r.id")
    List<RejectEntity> open(long run, long first, long last);

    /** Open rejects that nobody sends again now, locked until the transaction under way ends. */
    @Query(
            value = "select * from reject where run_id = :run and state = :state and sent_by is null and id > :after"
                    + " order by id for update",
            nativeQuery = true)
    List<RejectEntity> locked(long run, String state, long after, Limit limit);

    @Query(value = "select * from reject where id in :ids order by id for update", nativeQuery = true)
    List<RejectEntity> locked(List<Long> ids);

    /** Brings the numbers of open rejects that runs keep into line. */
    @Modifying
    @Query(
            value =
                    "update run set open_rejects = (select count(*) from reject where run_id = run.id and state = 'open')"
                            + " where id in :runs",
            nativeQuery = true)
    int countOpen(List<Long> runs);

    long countByRunIdAndState(long run, String state);

    /** Rejects whose problems hold a text. */
    @Query(
            value = "select * from reject where state = :state and id > :after and problems like :part order by id",
            nativeQuery = true)
    List<RejectEntity> openWith(String part, String state, long after, Limit limit);

    /** Rejects with corrections, whatever became of them since, newest first. */
    @Query(
            value =
                    "select * from reject where corrections <> '{}' and row_number > 0 and id < :before order by id desc",
            nativeQuery = true)
    List<RejectEntity> corrected(long before, Limit limit);

    /** Open rejects of a job, newest first. */
    @Query(
            "select r from RejectEntity r where r.id < :before and r.state = 'open' and r.sentBy is null and r.rowNumber > 0"
                    + " and r.runId in (select u.id from RunEntity u where u.jobName = :job) order by r.id desc")
    List<RejectEntity> openOfJob(String job, long before, Limit limit);
}

package dev.nachlauf.service.run;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface RunSourceRepository extends JpaRepository<RunSource, RunSource.Id> {
    @Query("select s from RunSource s where s.id.runId = :run order by s.id.position")
    List<RunSource> ofRun(long run);

    @Modifying
    @Query("delete from RunSource s where s.id.runId = :run")
    void deleteOfRun(long run);
}

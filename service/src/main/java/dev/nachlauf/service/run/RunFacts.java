package dev.nachlauf.service.run;

import dev.nachlauf.api.ControlTotalsView;
import dev.nachlauf.api.IssuedFileView;
import dev.nachlauf.service.store.Json;
import dev.nachlauf.service.store.StoredTraits;
import jakarta.persistence.EntityManager;
import jakarta.persistence.Query;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** What whoever carries a run out notes in it: columns that nobody else writes, each under the epoch. */
@Component
class RunFacts {
    private final EntityManager entities;

    RunFacts(EntityManager entities) {
        this.entities = entities;
    }

    /** A column. */
    enum Fact {
        ROWS("rows_read"),
        /** Null when it has got on, so that its patience begins anew. */
        UNREACHABLE_SINCE("unreachable_since"),
        IDENTITIES("identities"),
        SESSIONS("sessions"),
        SHAPED_EPOCH("shaped_epoch"),
        SHAPED_HASH("shaped_hash"),
        SHAPED_SIZE("shaped_size"),
        FORESEEN_REJECTS("foreseen_rejects");

        private final String column;

        Fact(String column) {
            this.column = column;
        }
    }

    /** Notes a fact; does nothing where the run is no longer this attempt's. */
    @Transactional
    void note(long run, long epoch, Fact fact, @Nullable Object value) {
        Query update = entities.createNativeQuery("UPDATE run SET " + fact.column
                        + (value == null ? " = NULL" : " = :value") + " WHERE id = :id AND epoch = :epoch")
                .setParameter("id", run)
                .setParameter("epoch", epoch);
        if (value != null) {
            update.setParameter("value", value);
        }
        update.executeUpdate();
    }

    /** Notes what the run will read and write; used in a transaction that holds the run. */
    @Transactional(propagation = Propagation.MANDATORY)
    void gathered(RunEntity run) {
        entities.createNativeQuery(
                        "UPDATE run SET gathered = true, source_name = :source, columns = :columns,"
                                + " warnings = :warnings, watermark = nullif(:watermark, ''), read_after = nullif(:after, ''), write_name = :write,"
                                + " target_connection = :connection, target_records = :records,"
                                + " target_description = :description, fields = :fields, key_fields = :keys, writes = :writes,"
                                + " sensitive_columns = :sensitive, planned_first = :planned, grouping = :grouping, traits = :traits, put_back = :putBack WHERE id = :id")
                .setParameter("id", run.id)
                .setParameter("source", run.sourceName)
                .setParameter("columns", Json.writeColumns(run.columns))
                .setParameter("warnings", Json.writeProblems(run.warnings))
                .setParameter("watermark", Objects.requireNonNullElse(run.watermark, ""))
                .setParameter("after", Objects.requireNonNullElse(run.readAfter, ""))
                .setParameter("write", run.writeName)
                .setParameter("connection", run.targetConnection)
                .setParameter("records", run.targetRecords)
                .setParameter("description", run.targetDescription)
                .setParameter("fields", Json.write(run.fields))
                .setParameter("keys", Json.write(run.keyFields))
                .setParameter("writes", Json.write(run.writes))
                .setParameter("sensitive", Json.write(run.sensitiveColumns))
                .setParameter("planned", run.plannedFirst)
                .setParameter("putBack", run.putBack)
                .setParameter("grouping", run.grouping.name())
                .setParameter("traits", StoredTraits.write(run.traits))
                .executeUpdate();
        run.gathered = true;
    }

    /** Notes how many records the targets hold, where nobody has counted them before. */
    @Transactional
    void noteRecordsBefore(long run, long epoch, Map<String, Long> counts) {
        entities.createNativeQuery("UPDATE run SET records_before = :counts"
                        + " WHERE id = :id AND epoch = :epoch AND records_before IS NULL")
                .setParameter("id", run)
                .setParameter("epoch", epoch)
                .setParameter("counts", Json.write(counts))
                .executeUpdate();
    }

    /** Notes the files that a run has delivered. */
    @Transactional
    void noteIssued(long run, long epoch, List<IssuedFileView> files) {
        entities.createNativeQuery("UPDATE run SET issued = :files WHERE id = :id AND epoch = :epoch")
                .setParameter("id", run)
                .setParameter("epoch", epoch)
                .setParameter("files", Json.write(files))
                .executeUpdate();
    }

    /** Notes what the figures of a run add up to. */
    @Transactional
    void noteTotals(long run, long epoch, ControlTotalsView totals) {
        entities.createNativeQuery("UPDATE run SET control_totals = :totals WHERE id = :id AND epoch = :epoch")
                .setParameter("id", run)
                .setParameter("epoch", epoch)
                .setParameter("totals", Json.write(totals))
                .executeUpdate();
    }

    /**
     * Notes what the ledger adds up to now.
     *
     * @param rejects how many rejects became visible with it
     */
    @Transactional
    void note(long run, long epoch, RunSums sums, long rejects) {
        entities.createNativeQuery("UPDATE run SET totals = :totals, tally = :tally, changed_fields = :fields,"
                        + " open_rejects = open_rejects + :rejects WHERE id = :id AND epoch = :epoch")
                .setParameter("id", run)
                .setParameter("epoch", epoch)
                .setParameter("totals", RunTotals.Text.of(sums.totals()))
                .setParameter("tally", Json.writeTally(sums.tally()))
                .setParameter("fields", Json.write(sums.changedFields()))
                .setParameter("rejects", rejects)
                .executeUpdate();
    }
}

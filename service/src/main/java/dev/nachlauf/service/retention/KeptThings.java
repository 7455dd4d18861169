package dev.nachlauf.service.retention;

import dev.nachlauf.api.KeptView;
import dev.nachlauf.api.KeptView.KeptLine;
import dev.nachlauf.service.file.ScratchSpace;
import io.micrometer.core.instrument.Gauge;
import io.micrometer.core.instrument.MeterRegistry;
import jakarta.persistence.EntityManager;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/** Counts what is kept, for people and for those who watch the service. */
@Service
class KeptThings {
    private static final String USED_BY_A_RUN = "EXISTS (SELECT FROM run_source s WHERE s.hash = f.hash)";

    private final RetentionSettings settings;
    private final ScratchSpace scratch;
    private final EntityManager entities;
    private final TransactionTemplate transactions;

    KeptThings(
            RetentionSettings settings,
            ScratchSpace scratch,
            EntityManager entities,
            TransactionTemplate transactions,
            MeterRegistry meters) {
        this.settings = settings;
        this.scratch = scratch;
        this.entities = entities;
        this.transactions = transactions;
        for (String what : List.of("files", "uploads", "ledgers", "rejects", "scratch")) {
            Gauge.builder("nachlauf.kept", this, kept -> kept.line(what).count())
                    .description("Things that are kept")
                    .tag("what", what)
                    .register(meters);
            Gauge.builder("nachlauf.kept.size", this, kept -> kept.line(what).bytes())
                    .description("Room that kept things take")
                    .baseUnit("bytes")
                    .tag("what", what)
                    .register(meters);
        }
    }

    KeptView all() {
        return new KeptView(List.of(line("files"), line("uploads"), line("ledgers"), line("rejects"), line("scratch")));
    }

    private KeptLine line(String what) {
        return switch (what) {
            case "files" -> files(what, USED_BY_A_RUN, settings.files());
            case "uploads" -> files(what, "NOT " + USED_BY_A_RUN, settings.uploads());
            case "ledgers" ->
                asked(
                        what,
                        "SELECT count(*), pg_total_relation_size('ledger_payload') + pg_total_relation_size('ledger_chunk')"
                                + " + pg_total_relation_size('key_history_block') + pg_total_relation_size('key_history'),"
                                + " min(r.created_at) FROM run r WHERE r.lines_removed_at IS NULL",
                        settings.ledger());
            case "rejects" ->
                asked(what, "SELECT count(*), pg_total_relation_size('reject'), min(created_at) FROM reject", null);
            default -> scratch(what);
        };
    }

    private KeptLine files(String what, String which, Duration keptFor) {
        return asked(
                what,
                "SELECT count(*), coalesce(sum(f.size), 0), min(f.stored_at) FROM stored_file f"
                        + " WHERE f.removed_at IS NULL AND " + which,
                keptFor);
    }

    private KeptLine asked(String what, String query, @Nullable Duration keptFor) {
        Object[] row = transactions.execute(
                status -> (Object[]) entities.createNativeQuery(query).getSingleResult());
        if (row == null) {
            throw new IllegalStateException("a sum has one row");
        }
        return new KeptLine(
                what,
                ((Number) row[0]).longValue(),
                ((Number) row[1]).longValue(),
                (Instant) row[2],
                keptFor == null ? null : keptFor.toDays());
    }

    private KeptLine scratch(String what) {
        ScratchSpace.Use use = scratch.use();
        return new KeptLine(what, use.folders(), use.bytes(), null, ScratchSpace.LEFT_BEHIND.toDays());
    }
}

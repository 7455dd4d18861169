package dev.nachlauf.service.record;

import dev.nachlauf.api.LedgerRowView.FieldChange;
import dev.nachlauf.api.RecordHistoryView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.ChunkCodec;
import dev.nachlauf.core.run.KeyIndex;
import dev.nachlauf.core.run.LedgerChunks;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.environment.Environments;
import dev.nachlauf.service.job.JobPreparation;
import dev.nachlauf.service.job.JobSystems;
import dev.nachlauf.service.run.LedgerOfRun;
import dev.nachlauf.service.run.LedgerStage;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.service.run.WrittenRun;
import dev.nachlauf.service.store.Json;
import dev.nachlauf.service.web.Cursors;
import dev.nachlauf.service.web.Masked;
import jakarta.persistence.EntityManager;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Which runs have changed a record, and how. */
@Component
class RecordHistory {
    private static final String FOUND = "SELECT h.run_id, h.write_no, b.first_hash, b.bytes FROM key_history h"
            + " CROSS JOIN LATERAL (SELECT first_hash, bytes FROM key_history_block b WHERE b.history_id = h.id"
            + " AND b.first_hash <= :hash ORDER BY b.first_hash DESC LIMIT 1) b"
            + " WHERE h.environment IN (:environment, '') AND h.connection = :connection AND h.records = :records"
            + " AND h.key_fields = :fields"
            + " AND h.run_id < :before";

    private final HistoryIndexing indexing;
    private final LedgerOfRun ledger;
    private final RunViews runs;
    private final JobPreparation preparation;
    private final Environments environments;
    private final EntityManager entities;
    private final TransactionTemplate transactions;

    RecordHistory(
            HistoryIndexing indexing,
            LedgerOfRun ledger,
            RunViews runs,
            JobPreparation preparation,
            Environments environments,
            EntityManager entities,
            TransactionTemplate transactions) {
        this.indexing = indexing;
        this.ledger = ledger;
        this.runs = runs;
        this.preparation = preparation;
        this.environments = environments;
        this.entities = entities;
        this.transactions = transactions;
    }

    /** The records of an environment; what ran before there were any is a part of the history of each. */
    private record Records(String environment, String connection, String type) {}

    /** Where a key was found: batches of one write of a run. */
    private record Place(long run, int write) {}

    /** The batches of a place, and the key that is looked for there. */
    private record Lines(SoughtKey key, SortedSet<Integer> batches) {}

    /**
     * The changes of a record, newest first.
     *
     * @param key the values of key fields, as text
     * @param cursor the run before which the page begins; null for the newest
     */
    RecordHistoryView of(
            String connection, String records, Map<String, String> key, @Nullable String cursor, int asked) {
        if (key.isEmpty()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REQUEST_MALFORMED,
                    "The key is missing.",
                    "Give it as field=value, such as hut_code=H-001."));
        }
        indexing.indexSome();
        Records where = new Records(environments.current().name(), connection, records);
        List<List<String>> known = keyFields(where);
        try (JobSystems systems = preparation.systems();
                SoughtKeys sought = new SoughtKeys(systems, connection, records, key)) {
            if (known.isEmpty()) {
                sought.requireRecords();
                return new RecordHistoryView(List.of(), null, note(sought));
            }
            return page(where, known, sought, Cursors.one(cursor, Long.MAX_VALUE), Cursors.limit(asked));
        }
    }

    private RecordHistoryView page(Records where, List<List<String>> known, SoughtKeys sought, long before, int limit) {
        TreeMap<Place, Lines> found = new TreeMap<>(Comparator.comparingLong(Place::run)
                .thenComparingInt(Place::write)
                .reversed());
        List<SoughtKey> keys = sought.all(known);
        keys.forEach(one -> find(where, one, before, found));
        List<RecordHistoryView.Change> changes = new ArrayList<>();
        String next = null;
        long last = before;
        for (Map.Entry<Place, Lines> place : found.entrySet()) {
            if (changes.size() >= limit && place.getKey().run() != last) {
                next = String.valueOf(last);
                break;
            }
            last = place.getKey().run();
            add(place.getKey(), place.getValue(), changes);
        }
        return new RecordHistoryView(changes, next, note(sought));
    }

    private String note(SoughtKeys sought) {
        String behind = indexing.isBehind()
                ? "Older runs are still being made ready for this search; ask again in a while. "
                : "";
        return (behind + sought.note()).strip();
    }

    private List<List<String>> keyFields(Records where) {
        List<?> found = transactions.execute(status -> entities.createNativeQuery(
                        "SELECT DISTINCT key_fields FROM key_history WHERE environment IN (:environment, '')"
                                + " AND connection = :connection AND records = :records")
                .setParameter("environment", where.environment)
                .setParameter("connection", where.connection)
                .setParameter("records", where.type)
                .getResultList());
        return found == null
                ? List.of()
                : found.stream().map(text -> Json.words(String.valueOf(text))).toList();
    }

    private void find(Records where, SoughtKey key, long before, Map<Place, Lines> found) {
        long hash = KeyIndex.hash(key.values());
        List<?> rows = transactions.execute(status -> entities.createNativeQuery(FOUND)
                .setParameter("hash", hash)
                .setParameter("environment", where.environment)
                .setParameter("connection", where.connection)
                .setParameter("records", where.type)
                .setParameter("fields", Json.write(key.fields()))
                .setParameter("before", before)
                .getResultList());
        for (Object row : Objects.requireNonNull(rows)) {
            Object[] block = (Object[]) row;
            SortedSet<Integer> batches =
                    new KeyIndex.Block(((Number) block[2]).longValue(), (byte[]) block[3]).batches(hash);
            if (!batches.isEmpty()) {
                Place place = new Place(((Number) block[0]).longValue(), ((Number) block[1]).intValue());
                found.computeIfAbsent(place, any -> new Lines(key, new TreeSet<>()))
                        .batches()
                        .addAll(batches);
            }
        }
    }

    private void add(Place place, Lines lines, List<RecordHistoryView.Change> changes) {
        WrittenRun run = runs.written(place.run());
        LedgerChunks chunks = ledger.chunks(place.run(), LedgerStage.WRITTEN);
        for (int batch : new TreeSet<>(lines.batches()).descendingSet()) {
            List<LedgerRow> rows = ChunkCodec.rows(chunks.chunk(batch), run.writes());
            for (LedgerRow line : rows.reversed()) {
                if (line.write() == place.write() && line.wrote() && lines.key().is(line)) {
                    changes.add(change(run, line));
                }
            }
        }
    }

    private static RecordHistoryView.Change change(WrittenRun run, LedgerRow line) {
        var write = run.writes().writes().get(line.write());
        List<FieldChange> fields = new ArrayList<>();
        for (int field = 0; field < write.fields().size(); field++) {
            Object before = field < line.before().length ? line.before()[field] : null;
            Object after = field < line.after().length ? line.after()[field] : null;
            if (before != null || after != null) {
                String name = write.fields().get(field);
                boolean masked = run.sensitive().get(line.write()).contains(name);
                fields.add(new FieldChange(
                        name, Masked.value(Values.text(before), masked), Masked.value(Values.text(after), masked)));
            }
        }
        return new RecordHistoryView.Change(
                run.id(),
                run.job(),
                run.jobVersion(),
                run.mode(),
                run.undoes(),
                run.by(),
                run.at(),
                write.name(),
                line.source(),
                line.number(),
                line.outcome().word(),
                line.shownKey(write.key().size()),
                Values.text(line.id()),
                fields);
    }
}

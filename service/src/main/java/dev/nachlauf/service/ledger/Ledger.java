package dev.nachlauf.service.ledger;

import dev.nachlauf.api.LedgerRowView;
import dev.nachlauf.api.LedgerRowView.FieldChange;
import dev.nachlauf.api.Page;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.ChunkCodec;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.RunRecords;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.run.LedgerOfRun;
import dev.nachlauf.service.run.RunFence;
import dev.nachlauf.service.web.Cursors;
import jakarta.persistence.EntityManager;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Keeps the ledgers of runs and shows them page by page. */
@Service
public class Ledger implements LedgerOfRun {
    private final EntityManager entities;
    private final RunFence fence;
    private final RejectSink rejects;
    private final TransactionTemplate transactions;

    Ledger(EntityManager entities, RunFence fence, RejectSink rejects, TransactionTemplate transactions) {
        this.entities = entities;
        this.fence = fence;
        this.rejects = rejects;
        this.transactions = transactions;
    }

    @Override
    public RunRecords records(long run, long epoch) {
        return new LedgerRecords(run, epoch, fence, entities, rejects, transactions);
    }

    @Override
    @Transactional(readOnly = true)
    public Counts counts(long run) {
        Object[] sums = entities.createQuery("""
                        select coalesce(sum(c.counts.read), 0), coalesce(sum(c.counts.skipped), 0),
                               coalesce(sum(c.counts.rejected), 0), coalesce(sum(c.counts.inserted), 0),
                               coalesce(sum(c.counts.updated), 0), coalesce(sum(c.counts.unchanged), 0),
                               coalesce(sum(c.counts.deleted), 0), coalesce(sum(c.counts.issued), 0),
                               coalesce(sum(c.counts.refused), 0), coalesce(sum(c.counts.warned), 0)
                        from ChunkEntity c where c.id.runId = :run""", Object[].class)
                .setParameter("run", run)
                .getSingleResult();
        long[] n =
                Arrays.stream(sums).mapToLong(sum -> ((Number) sum).longValue()).toArray();
        return new Counts(n[0], n[1], n[2], n[3], n[4], n[5], n[6], n[7], n[8], n[9]);
    }

    @Override
    @Transactional(readOnly = true)
    public Map<String, Long> changedFields(long run) {
        Map<String, Long> sums = new TreeMap<>();
        for (ChunkEntity chunk : LedgerRecords.heads(entities, run)) {
            chunk.fieldCounts.forEach((field, count) -> sums.merge(field, count, Long::sum));
        }
        return sums;
    }

    @Override
    @Transactional(readOnly = true)
    public long openRejects(long run) {
        return rejects.open(run);
    }

    /**
     * A page of lines in the order of the source, perhaps of one outcome only.
     *
     * @param fields the names of the written fields
     * @param keyWidth how many parts a key has
     */
    @Transactional(readOnly = true)
    public Page<LedgerRowView> page(
            long run, List<String> fields, int keyWidth, @Nullable String outcome, @Nullable String cursor, int asked) {
        int limit = Cursors.limit(asked);
        Outcome wanted = outcome == null ? null : known(outcome);
        long[] from = cursor == null ? new long[2] : Cursors.parts(cursor, 2);
        List<LedgerRowView> lines = new ArrayList<>();
        for (ChunkEntity head : LedgerRecords.heads(entities, run)) {
            int batch = head.id.batch();
            if (batch < from[0] || wanted != null && none(head.counts.counts(), wanted)) {
                continue;
            }
            List<LedgerRow> rows =
                    ChunkCodec.rows(entities.find(PayloadEntity.class, head.id).rows, keyWidth, fields.size());
            for (int i = batch == from[0] ? (int) from[1] : 0; i < rows.size(); i++) {
                if (wanted == null || rows.get(i).outcome() == wanted) {
                    if (lines.size() == limit) {
                        return new Page<>(lines, batch + "-" + i);
                    }
                    lines.add(view(rows.get(i), fields));
                }
            }
        }
        return new Page<>(lines, null);
    }

    private static Outcome known(String outcome) {
        return Outcome.of(outcome)
                .orElseThrow(() -> new CannotGoOn(Problem.of(
                        ProblemCode.REQUEST_MALFORMED,
                        "There is no outcome " + outcome + ".",
                        "Outcomes: "
                                + Arrays.stream(Outcome.values())
                                        .map(Outcome::word)
                                        .collect(Collectors.joining(", "))
                                + ".")));
    }

    /** Whether a chunk can be passed over unopened. */
    private static boolean none(Counts counts, Outcome outcome) {
        return switch (outcome) {
            case INSERTED -> counts.inserted() == 0;
            case UPDATED -> counts.updated() == 0;
            case UNCHANGED -> counts.unchanged() == 0;
            case DELETED -> counts.deleted() == 0;
            case ISSUED -> counts.issued() == 0;
            case SKIPPED -> counts.skipped() == 0;
            case REJECTED -> counts.allRejected() == 0;
        };
    }

    private static LedgerRowView view(LedgerRow row, List<String> fields) {
        List<FieldChange> changes = new ArrayList<>();
        for (int field = row.changed().nextSetBit(0);
                field >= 0;
                field = row.changed().nextSetBit(field + 1)) {
            changes.add(new FieldChange(
                    fields.get(field), Values.text(row.before()[field]), Values.text(row.after()[field])));
        }
        List<String> key = row.key() == null
                ? List.of()
                : row.key().stream()
                        .map(part -> String.valueOf(Values.text(part)))
                        .toList();
        return new LedgerRowView(
                row.number(),
                row.source(),
                row.line(),
                row.outcome().word(),
                row.note(),
                key,
                Values.text(row.id()),
                changes);
    }
}

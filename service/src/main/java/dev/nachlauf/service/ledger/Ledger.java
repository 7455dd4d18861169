package dev.nachlauf.service.ledger;

import dev.nachlauf.api.LedgerRowView;
import dev.nachlauf.api.LedgerRowView.FieldChange;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.WriteCountView;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.ChunkCodec;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.RunRecords;
import dev.nachlauf.core.value.Values;
import dev.nachlauf.service.run.LedgerOfRun;
import dev.nachlauf.service.run.RunFence;
import dev.nachlauf.service.run.RunNotes;
import dev.nachlauf.service.web.Cursors;
import dev.nachlauf.service.web.Masked;
import jakarta.persistence.EntityManager;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Keeps the ledgers of runs and shows them page by page. */
@Service
public class Ledger implements LedgerOfRun {
    /** Stands for an outcome in lines and filters while the target has not said what became of a batch. */
    static final String UNKNOWN = "unknown";

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
    public RunRecords records(RunNotes notes) {
        return new LedgerRecords(notes, fence, entities, rejects, transactions);
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
                        from ChunkEntity c where c.id.runId = :run and c.state = 'done'""", Object[].class)
                .setParameter("run", run)
                .getSingleResult();
        long[] n =
                Arrays.stream(sums).mapToLong(sum -> ((Number) sum).longValue()).toArray();
        return new Counts(n[0], n[1], n[2], n[3], n[4], n[5], n[6], n[7], n[8], n[9]);
    }

    @Override
    @Transactional
    public void forgetForeseen(long run) {
        rejects.foresee(run, List.of());
    }

    @Override
    @Transactional(readOnly = true)
    public long inDoubt(long run) {
        return entities.createQuery(
                        "select coalesce(sum(c.counts.read), 0) from ChunkEntity c where c.id.runId = :run and c.state <> 'done'",
                        Long.class)
                .setParameter("run", run)
                .getSingleResult();
    }

    @Override
    @Transactional(readOnly = true)
    public Tally tally(long run) {
        return LedgerRecords.heads(entities, run).stream()
                .filter(ChunkEntity::isDone)
                .map(chunk -> chunk.tally)
                .reduce(Tally.NONE, Tally::plus);
    }

    @Override
    @Transactional(readOnly = true)
    public Map<String, Long> changedFields(long run) {
        Map<String, Long> sums = new TreeMap<>();
        LedgerRecords.heads(entities, run).stream()
                .filter(ChunkEntity::isDone)
                .forEach(chunk -> chunk.fieldCounts.forEach((field, count) -> sums.merge(field, count, Long::sum)));
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
     * @param writes the writes of the run
     */
    @Transactional(readOnly = true)
    public Page<LedgerRowView> page(
            long run, List<WriteCountView> writes, @Nullable String outcome, @Nullable String cursor, int asked) {
        int limit = Cursors.limit(asked);
        boolean inDoubt = UNKNOWN.equals(outcome);
        Outcome wanted = outcome == null || inDoubt ? null : known(outcome);
        int keyWidth = widest(writes, WriteCountView::keyFields);
        int fields = widest(writes, WriteCountView::fields);
        long[] from = cursor == null ? new long[2] : Cursors.parts(cursor, 2);
        int offset = from[1] > Integer.MAX_VALUE ? Integer.MAX_VALUE : (int) from[1];
        List<LedgerRowView> lines = new ArrayList<>();
        for (ChunkEntity head : LedgerRecords.heads(entities, run)) {
            int batch = head.id.batch();
            // what a row in doubt became is not known, so no other outcome is told of it
            boolean passedOver = head.isDone() ? inDoubt || wanted != null && none(head, wanted) : wanted != null;
            if (batch < from[0] || passedOver) {
                continue;
            }
            List<LedgerRow> rows = ChunkCodec.rows(entities.find(PayloadEntity.class, head.id).rows, keyWidth, fields);
            // one payload in memory, however long the search
            entities.clear();
            for (int i = batch == from[0] ? offset : 0; i < rows.size(); i++) {
                if (wanted == null || rows.get(i).outcome() == wanted) {
                    if (lines.size() == limit) {
                        return new Page<>(lines, batch + "-" + i);
                    }
                    WriteCountView write = writes.get(rows.get(i).write());
                    lines.add(head.isDone() ? view(rows.get(i), write) : doubtful(rows.get(i), write));
                }
            }
        }
        return new Page<>(lines, null);
    }

    /** Chunks are as wide as the widest write. */
    private static int widest(List<WriteCountView> writes, Function<WriteCountView, List<String>> of) {
        return writes.stream().mapToInt(write -> of.apply(write).size()).max().orElse(0);
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
                                + ", " + UNKNOWN + ".")));
    }

    /** Whether a chunk can be passed over unopened. */
    private static boolean none(ChunkEntity head, Outcome outcome) {
        if (!head.tally.writes().isEmpty()) {
            return false;
        }
        Counts counts = head.counts.counts();
        return switch (outcome) {
            case INSERTED -> counts.inserted() == 0;
            case UPDATED -> counts.updated() == 0;
            case UNCHANGED -> counts.unchanged() == 0;
            case DELETED -> counts.deleted() == 0;
            case ISSUED -> counts.issued() == 0;
            case SKIPPED -> counts.skipped() == 0 && head.tally.steps().isEmpty();
            case REJECTED -> counts.allRejected() + head.tally.elsewhere() == 0;
        };
    }

    /** A row of a batch of which nobody knows whether it was written: what was to become of it is not told as done. */
    private static LedgerRowView doubtful(LedgerRow row, WriteCountView write) {
        LedgerRowView view = view(row, write);
        return new LedgerRowView(
                view.row(),
                view.write(),
                view.source(),
                view.line(),
                UNKNOWN,
                ProblemCode.OUTCOME_UNKNOWN.id(),
                view.key(),
                null,
                view.changes());
    }

    private static LedgerRowView view(LedgerRow row, WriteCountView write) {
        List<FieldChange> changes = new ArrayList<>();
        for (int field = row.changed().nextSetBit(0);
                field >= 0;
                field = row.changed().nextSetBit(field + 1)) {
            String name = write.fields().get(field);
            boolean masked = write.sensitive().contains(name);
            changes.add(new FieldChange(
                    name,
                    Masked.value(Values.text(row.before()[field]), masked),
                    Masked.value(Values.text(row.after()[field]), masked)));
        }
        List<String> key = row.key() == null
                ? List.of()
                : row.key().stream()
                        .limit(write.keyFields().size())
                        .map(part -> String.valueOf(Values.text(part)))
                        .toList();
        return new LedgerRowView(
                row.number(),
                write.write(),
                row.source(),
                row.line(),
                row.outcome().word(),
                row.note(),
                key,
                Values.text(row.id()),
                changes);
    }
}

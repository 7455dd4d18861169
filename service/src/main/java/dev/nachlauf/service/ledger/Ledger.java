package dev.nachlauf.service.ledger;

import dev.nachlauf.api.LedgerRowView;
import dev.nachlauf.api.Page;
import dev.nachlauf.api.WriteCountView;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.run.ChunkCodec;
import dev.nachlauf.core.run.LedgerChunks;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.run.RunRecords;
import dev.nachlauf.service.run.LedgerOf;
import dev.nachlauf.service.run.LedgerOfRun;
import dev.nachlauf.service.run.LedgerStage;
import dev.nachlauf.service.run.RunFence;
import dev.nachlauf.service.run.RunNotes;
import dev.nachlauf.service.run.RunSums;
import dev.nachlauf.service.web.Cursors;
import jakarta.persistence.EntityManager;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Consumer;
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
    public RunRecords records(RunNotes notes, LedgerStage stage) {
        return new LedgerRecords(notes, stage, fence, entities, rejects, transactions);
    }

    @Override
    public LedgerChunks chunks(long run, LedgerStage stage) {
        return new KeptChunks(run, stage, entities, transactions);
    }

    @Override
    @Transactional
    public void forgetForeseen(long run) {
        rejects.foresee(run, List.of());
    }

    @Override
    @Transactional(readOnly = true)
    public RunSums sums(long run) {
        return RunSums.of(LedgerRecords.heads(entities, run, LedgerStage.WRITTEN, 0).stream()
                .map(ChunkEntity::head)
                .toList());
    }

    /** A page of lines in the order of the source, perhaps of one outcome only. */
    @Transactional(readOnly = true)
    public Page<LedgerRowView> page(LedgerOf of, @Nullable String outcome, @Nullable String cursor, int asked) {
        int limit = Cursors.limit(asked);
        boolean inDoubt = UNKNOWN.equals(outcome);
        Outcome wanted = outcome == null || inDoubt ? null : known(outcome);
        int keyWidth = widest(of.writes(), WriteCountView::keyFields);
        int fields = widest(of.writes(), WriteCountView::fields);
        long[] from = cursor == null ? new long[2] : Cursors.parts(cursor, 2);
        int offset = from[1] > Integer.MAX_VALUE ? Integer.MAX_VALUE : (int) from[1];
        LedgerRowViews views = new LedgerRowViews(of);
        List<LedgerRowView> lines = new ArrayList<>();
        for (ChunkEntity head : LedgerRecords.heads(entities, of.run(), of.stage(), from[0])) {
            int batch = head.id.batch();
            // what a row in doubt became is not known, so no other outcome is told of it
            boolean passedOver = head.isKnown() ? inDoubt || wanted != null && none(head, wanted) : wanted != null;
            if (passedOver) {
                continue;
            }
            List<LedgerRow> rows = ChunkCodec.rows(payload(entities, head.id).rows, keyWidth, fields);
            // one payload in memory, however long the search
            entities.clear();
            for (int i = batch == from[0] ? offset : 0; i < rows.size(); i++) {
                if (wanted == null || rows.get(i).outcome() == wanted) {
                    if (lines.size() == limit) {
                        return new Page<>(lines, batch + "-" + i);
                    }
                    lines.add(head.isKnown() ? views.of(rows.get(i)) : views.doubtful(rows.get(i)));
                }
            }
        }
        return new Page<>(lines, null);
    }

    /** Every line, in the order of the batches. */
    @Transactional(readOnly = true)
    public void each(LedgerOf of, Consumer<LedgerRowView> use) {
        int keyWidth = widest(of.writes(), WriteCountView::keyFields);
        int fields = widest(of.writes(), WriteCountView::fields);
        LedgerRowViews views = new LedgerRowViews(of);
        for (ChunkEntity head : LedgerRecords.heads(entities, of.run(), of.stage(), 0)) {
            for (LedgerRow row : ChunkCodec.rows(payload(entities, head.id).rows, keyWidth, fields)) {
                use.accept(head.isKnown() ? views.of(row) : views.doubtful(row));
            }
            entities.clear();
        }
    }

    static PayloadEntity payload(EntityManager entities, ChunkId id) {
        PayloadEntity payload = entities.find(PayloadEntity.class, id);
        if (payload == null) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.LINES_REMOVED,
                    "The lines of run " + id.runId() + " were removed: it ended longer ago than they are kept.",
                    "Its balance stays. NACHLAUF_KEEP_LEDGER says how long lines are kept."));
        }
        return payload;
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
        Counts reading = head.counts.counts();
        List<StepCount> steps = head.tally.steps();
        List<Counts> writes = head.tally.outcomes(reading);
        return switch (outcome) {
            case INSERTED -> writes.stream().allMatch(write -> write.inserted() == 0);
            case UPDATED -> writes.stream().allMatch(write -> write.updated() == 0);
            case UNCHANGED -> writes.stream().allMatch(write -> write.unchanged() == 0);
            case DELETED -> writes.stream().allMatch(write -> write.deleted() == 0);
            case ISSUED -> writes.stream().allMatch(write -> write.issued() == 0);
            case SKIPPED -> reading.skipped() == 0 && steps.stream().allMatch(step -> step.skipped() == 0);
            case REJECTED ->
                reading.allRejected() + head.tally.elsewhere() + head.tally.sources() == 0
                        && writes.stream().allMatch(write -> write.allRejected() == 0)
                        && steps.stream().allMatch(step -> step.rejected() == 0);
        };
    }
}

package dev.nachlauf.service.reject;

import dev.nachlauf.api.FileView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowRanges;
import dev.nachlauf.core.run.Chunk;
import dev.nachlauf.core.run.ChunkCodec;
import dev.nachlauf.core.run.LedgerChunks;
import dev.nachlauf.core.run.LedgerRow;
import dev.nachlauf.core.source.MendedRows.Mended;
import dev.nachlauf.service.run.LedgerOfRun;
import dev.nachlauf.service.run.LedgerStage;
import dev.nachlauf.service.run.RunEnded;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.service.run.SentRows;
import dev.nachlauf.service.run.WrittenRun;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Component;

/**
 * Rejected rows on their second way: a run takes them, and when it ends, each reject is closed, or has failed once more, or
 * is as open as it was because the run did not come to its row.
 */
@Component
class SentAgain implements SentRows {
    private static final int PAGE = 1_000;

    private final RejectRepository rejects;
    private final RunViews runs;
    private final LedgerOfRun ledger;
    private final MendedSheets sheets;
    private final EntityManager entities;
    private final Clock clock;

    SentAgain(
            RejectRepository rejects,
            RunViews runs,
            LedgerOfRun ledger,
            MendedSheets sheets,
            EntityManager entities,
            Clock clock) {
        this.sheets = sheets;
        this.rejects = rejects;
        this.runs = runs;
        this.ledger = ledger;
        this.entities = entities;
        this.clock = clock;
    }

    @Override
    public long give(long rejecting, @Nullable List<Long> ids, long sending) {
        if (ids == null) {
            return rejects.give(rejecting, sending);
        }
        List<Long> asked = ids.stream().distinct().toList();
        int given = asked.isEmpty() ? 0 : rejects.give(rejecting, asked, sending);
        if (given < asked.size()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REJECT_STATE,
                    (asked.size() - given) + " of these rejects are not open ones of run " + rejecting + ".",
                    "rejects list --run " + rejecting + " shows how they are now."));
        }
        return given;
    }

    @Override
    public Supplier<List<Long>> mended(FileView file, long rejecting, String by) {
        MendedSheet sheet = sheets.read(file, rejecting);
        return () -> sheets.apply(sheet, rejecting, by);
    }

    @Override
    public boolean amongOthers(long sending) {
        return rejects.standsForSeveral(sending);
    }

    @Override
    public Iterator<Mended> of(long sending) {
        return new Rows(sending);
    }

    /** Rows of rejects, page by page; what was made of one row was corrected together. */
    private final class Rows implements Iterator<Mended> {
        private final long run;
        private final Deque<RejectEntity> page = new ArrayDeque<>();
        private long row;
        private long id;
        private boolean more = true;

        Rows(long run) {
            this.run = run;
        }

        private @Nullable RejectEntity peek() {
            if (page.isEmpty() && more) {
                List<RejectEntity> next = rejects.readBy(run, row, id, Limit.of(PAGE));
                more = next.size() == PAGE;
                page.addAll(next);
                next.forEach(entities::detach);
                if (!next.isEmpty()) {
                    row = next.getLast().rowNumber;
                    id = next.getLast().id;
                }
            }
            return page.peek();
        }

        @Override
        public boolean hasNext() {
            return peek() != null;
        }

        @Override
        public Mended next() {
            RejectEntity first = peek();
            if (first == null) {
                throw new NoSuchElementException();
            }
            Map<String, String> corrections = new HashMap<>();
            RejectEntity reject = first;
            while (reject != null && reject.rowNumber == first.rowNumber) {
                corrections.putAll(reject.corrections);
                page.remove();
                reject = peek();
            }
            return new Mended(first.rowNumber, first.raw, corrections);
        }
    }

    /** In the transaction in which the run ends. */
    @EventListener
    void ended(RunEnded ended) {
        List<RejectEntity> page = rejects.sentBy(ended.run(), 0, 0, Limit.of(PAGE));
        if (page.isEmpty()) {
            return;
        }
        RowRanges settled = settled(ended.run());
        long root = page.getFirst().runId;
        while (!page.isEmpty()) {
            Map<Long, Deque<RejectEntity>> again =
                    rejects.open(ended.run(), page.getFirst().rowNumber, page.getLast().rowNumber).stream()
                            .collect(Collectors.groupingBy(
                                    reject -> reject.rowNumber, Collectors.toCollection(ArrayDeque::new)));
            page.forEach(reject -> end(reject, ended.run(), settled, again));
            entities.flush();
            RejectEntity last = page.getLast();
            page = rejects.sentBy(ended.run(), last.rowNumber, last.id, Limit.of(PAGE));
        }
        entities.flush();
        rejects.countOpen(List.of(root, ended.run()));
    }

    /** The rows of which it is certain what became of them. */
    private RowRanges settled(long run) {
        RowRanges rows = new RowRanges();
        WrittenRun written = runs.written(run);
        LedgerChunks chunks = ledger.chunks(run, LedgerStage.WRITTEN);
        for (Chunk.Head head : chunks.chunks()) {
            if (head.state() == Chunk.State.DONE) {
                for (LedgerRow line : ChunkCodec.rows(chunks.chunk(head.batch()), written.writes())) {
                    rows.add(line.number(), line.number());
                }
            }
        }
        return rows;
    }

    /** @param again what the run has rejected, by row; each stands for one reject and is then taken away */
    private void end(RejectEntity reject, long run, RowRanges settled, Map<Long, Deque<RejectEntity>> again) {
        reject.sentBy = null;
        if (!settled.test(reject.rowNumber)) {
            return;
        }
        reject.edition++;
        RejectEntity now =
                again.getOrDefault(reject.rowNumber, new ArrayDeque<>()).poll();
        if (now == null) {
            reject.state = Rejects.CLOSED;
            reject.closedBy = run;
            reject.decidedAt = clock.instant();
            return;
        }
        // the reject keeps its number, and tells what is wrong now
        reject.attempts++;
        reject.againIn = run;
        reject.problems = now.problems;
        reject.code = now.code;
        reject.field = now.field;
        reject.key = now.key;
        reject.byTarget = now.byTarget;
        entities.remove(now);
    }
}

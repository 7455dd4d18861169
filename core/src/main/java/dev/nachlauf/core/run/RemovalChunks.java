package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.LoadPlanner;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.plan.Removal;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.run.Objections.Objection;
import dev.nachlauf.core.system.Answers;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.StoredRecord;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** The ledger of records that the source no longer has: what becomes of them, and what forbids that. */
final class RemovalChunks {
    /** Their lines stand behind those of all rows. */
    private static final long FIRST_POSITION = 1L << 40;

    private final LedgerWrites writes;
    private final Targets targets;
    private final Objections objections;
    private long position = FIRST_POSITION;

    RemovalChunks(LedgerWrites writes, Targets targets, Objections objections) {
        this.writes = writes;
        this.targets = targets;
        this.objections = objections;
    }

    /**
     * What is planned for some of them.
     *
     * @param gone the records, each whole: mark, id and fields
     */
    Chunk chunk(int batch, int write, Removal removal, List<byte[]> gone) {
        Cells cells = targets.of(write).cells();
        ChangeSet changes = changes(cells, removal, gone);
        int[] changing = changes.changes(IntStream.range(0, gone.size()).toArray());
        Map<Integer, Objection> refused = objections.of(write, changes, changing);
        LedgerBlock lines = new LedgerBlock(targets.cells());
        Answers answers = new Answers(changes);
        BatchSums sums = new BatchSums(writes);
        List<Reject> rejects = new ArrayList<>();
        for (int place : changing) {
            Objection objection = refused.get(place);
            List<Problem> why = objection == null ? List.of() : objection.reasons();
            Outcome intent = changes.kind(place) == ChangeSet.Kind.DELETE ? Outcome.DELETED : Outcome.UPDATED;
            Outcome outcome = why.isEmpty() ? intent : Outcome.REJECTED;
            sums.outcome(write, outcome);
            if (outcome == Outcome.UPDATED) {
                sums.changed(write, changes.changed(place));
            }
            if (objection != null) {
                rejects.add(reject(cells, changes, place, objection));
            }
            lines.add(line(outcome, intent, why), write, changes, answers, place);
            position++;
        }
        Chunk.Head head = new Chunk.Head(
                batch,
                new Chunk.Range(0, 0, 0, changing.length),
                Counts.NONE,
                new Tally(List.of(), sums.writes(), sums.removals(), 0, 0, 0),
                sums.fieldCounts(),
                Collections.emptySortedMap(),
                Chunk.State.DONE);
        return new Chunk(head, lines.pack(), ChunkCodec.packRejects(rejects)).planned();
    }

    /** No row of the source stands behind it. */
    private LedgerBlock.Line line(Outcome outcome, Outcome intent, List<Problem> why) {
        return new LedgerBlock.Line(
                0, position, position, "", 0, outcome, intent, true, why.isEmpty() ? "" : LedgerRow.codes(why));
    }

    private Reject reject(Cells cells, ChangeSet changes, int place, Objection objection) {
        Object[] key = cells.key().stream()
                .map(field -> String.valueOf(changes.before(place, field)))
                .toArray();
        return new Reject(
                0,
                position,
                1,
                Origin.NOWHERE,
                LoadPlanner.shown(key),
                List.of(),
                objection.reasons(),
                objection.byTarget());
    }

    private static ChangeSet changes(Cells cells, Removal removal, List<byte[]> gone) {
        StoredRecord record = new StoredRecord(cells);
        int width = removal.fields().size();
        @Nullable Object[] values = new Object[width];
        BitSet set = new BitSet();
        for (Removal.Set one : removal.deactivated()) {
            values[one.field()] = one.value();
            set.set(one.field());
        }
        RowBlock.Builder rows = new RowBlock.Builder(width, gone.size());
        for (byte[] bytes : gone) {
            record.over(bytes, 0);
            for (int field = 0; field < width; field++) {
                if (set.get(field)) {
                    rows.add(values[field], cells.fields().get(field));
                } else {
                    rows.add(bytes, record.fieldAt(field));
                }
            }
        }
        ChangeSet changes = new ChangeSet(cells, rows.build());
        for (int row = 0; row < gone.size(); row++) {
            record.over(gone.get(row), 0);
            decide(changes, row, record, set);
        }
        return changes;
    }

    private static void decide(ChangeSet changes, int row, StoredRecord record, BitSet set) {
        Cells cells = changes.cells();
        if (set.isEmpty()) {
            changes.delete(row, record);
            IntStream.range(0, cells.fields().size()).forEach(field -> changes.change(row, field));
            return;
        }
        RowBlock rows = changes.rows();
        int[] differing = set.stream()
                .filter(field -> {
                    CellCodec codec = cells.fields().get(field);
                    return !codec.same(rows.data(), rows.at(row, field), record.data(), record.fieldAt(field));
                })
                .toArray();
        if (differing.length == 0) {
            changes.leave(row, record);
        } else {
            changes.update(row, record);
            IntStream.of(differing).forEach(field -> changes.change(row, field));
        }
    }
}

package dev.nachlauf.core.run;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.Requirement.Among;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.Removal;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowBlock;
import dev.nachlauf.core.spool.ExternalSort;
import dev.nachlauf.core.spool.ExternalSort.Entry;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.ListsRecords;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.value.ValueProblem;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * The records that a write may let go, and those that rows of the load have met: what is left when the second are taken
 * from the first is gone. Both are sorted by id on disk, so memory doesn't grow with them.
 */
final class Candidates implements AutoCloseable {
    private final Removal removal;
    private final Optional<Among> common;
    private final int[] within;
    private final Target target;
    private final ListsRecords listing;
    private final ExternalSort listed;
    private final ExternalSort met;
    private final @Nullable Object[] slots;

    /**
     * @param common what the records of the scope have in common; empty where nothing is known of the kind
     * @param target opened for {@link Removal#listing} by it
     */
    Candidates(PlannedWrite write, Removal removal, Optional<Among> common, Target target, Path scratch) {
        this.removal = removal;
        this.common = common;
        this.within =
                removal.within().stream().mapToInt(write.fieldNames()::indexOf).toArray();
        this.target = target;
        if (!(target instanceof ListsRecords lists)) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.CONNECTION_UNFIT,
                    "The connection " + write.connection()
                            + " can't list what it holds, so nobody can tell what the source no longer has.",
                    "Let the job upsert instead."));
        }
        this.listing = lists;
        this.listed = new ExternalSort(scratch);
        this.met = new ExternalSort(scratch);
        this.slots = new Object[removal.fields().size()];
    }

    /** A row has met the record with an id, whose parts begin here. */
    void meet(byte[] bytes, int idAt) {
        met.add(cells(bytes, idAt), 0, 0);
    }

    private byte[] cells(byte[] bytes, int at) {
        return Arrays.copyOfRange(bytes, at, target.cells().idEnd(bytes, at));
    }

    /** Rows of the load go on: what agrees with them in the fields of {@code within} may go. */
    void with(ChangeSet changes, int[] places) {
        if (within.length == 0 || places.length == 0) {
            return;
        }
        RowBlock rows = changes.rows();
        List<Integer> key = target.cells().key();
        RowBlock.Builder keys = new RowBlock.Builder(removal.fields().size(), places.length);
        Set<ByteBuffer> known = new HashSet<>();
        for (int place : places) {
            boolean whole = IntStream.of(within).noneMatch(field -> rows.isNull(place, field));
            if (whole && known.add(key(rows, place))) {
                for (int field = 0; field < removal.fields().size(); field++) {
                    int part = key.indexOf(field);
                    if (part < 0) {
                        keys.text(null);
                    } else {
                        keys.add(rows.data(), rows.at(place, within[part]));
                    }
                }
            }
        }
        RowBlock block = keys.build();
        listing.list(block, IntStream.range(0, block.rows()).toArray(), this::consider);
    }

    private ByteBuffer key(RowBlock rows, int place) {
        int size = IntStream.of(within)
                .map(field -> rows.end(place, field) - rows.at(place, field))
                .sum();
        ByteBuffer key = ByteBuffer.allocate(size);
        IntStream.of(within)
                .forEach(field ->
                        key.put(rows.data(), rows.at(place, field), rows.end(place, field) - rows.at(place, field)));
        return key.flip();
    }

    private void consider(StoredRecord record) {
        if (isInScope(record)) {
            byte[] data = record.data();
            listed.add(
                    cells(data, record.idAt()),
                    0,
                    0,
                    Arrays.copyOfRange(data, record.markAt(), record.fieldAt(slots.length)));
        }
    }

    private boolean isInScope(StoredRecord record) {
        Formula scope = removal.scope().orElse(null);
        if (scope == null) {
            return true;
        }
        scope.slots().forEach(slot -> slots[slot] = record.value(slot));
        try {
            return Boolean.TRUE.equals(scope.evaluator().evaluate(slots));
        } catch (ValueProblem problem) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.REPLACE_UNFIT,
                    "The scope can't be computed of a record that is there: " + problem.getMessage(),
                    "Write it so that it holds for every record, such as with coalesce."));
        }
    }

    private RowBlock values(Among of) {
        RowBlock.Builder rows = new RowBlock.Builder(slots.length, of.values().size());
        for (Object value : of.values()) {
            for (int field = 0; field < slots.length; field++) {
                rows.add(
                        field == of.slot() ? value : null,
                        target.cells().fields().get(field));
            }
        }
        return rows.build();
    }

    /** The records that go, each whole: mark, id and fields. To be asked for once, when all rows have been met. */
    Iterator<byte[]> gone() {
        if (within.length == 0 && common.isEmpty()) {
            listing.list(this::consider);
        } else if (within.length == 0) {
            RowBlock values = values(common.get());
            listing.list(values, IntStream.range(0, values.rows()).toArray(), this::consider);
        }
        return new Gone(listed.sorted(), met.sorted());
    }

    /** Those of the first that are not among the second. */
    private static final class Gone implements Iterator<byte[]> {
        private final Iterator<Entry> listed;
        private final Iterator<Entry> met;
        private @Nullable Entry next;
        private @Nullable Entry nextMet;
        private byte[] last = {};

        Gone(Iterator<Entry> listed, Iterator<Entry> met) {
            this.listed = listed;
            this.met = met;
            this.nextMet = next(met);
            advance();
        }

        private static @Nullable Entry next(Iterator<Entry> entries) {
            return entries.hasNext() ? entries.next() : null;
        }

        private void advance() {
            for (next = next(listed); next != null; next = next(listed)) {
                if (!Arrays.equals(next.key(), last) && !isMet(next.key())) {
                    last = next.key();
                    return;
                }
            }
        }

        private boolean isMet(byte[] id) {
            while (nextMet != null && Arrays.compareUnsigned(nextMet.key(), id) < 0) {
                nextMet = next(met);
            }
            return nextMet != null && Arrays.equals(nextMet.key(), id);
        }

        @Override
        public boolean hasNext() {
            return next != null;
        }

        @Override
        public byte[] next() {
            Entry entry = next;
            if (entry == null) {
                throw new java.util.NoSuchElementException();
            }
            advance();
            return entry.payload();
        }
    }

    @Override
    public void close() {
        listed.close();
        met.close();
    }
}

package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.record.CellCodec;
import dev.nachlauf.core.run.LedgerWrites.Write;
import dev.nachlauf.core.system.Cells;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.StoredRecord;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Writes;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Random;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Reads back what a run has written and compares it with its ledger, field by field. Nothing is written. One batch is in
 * memory, the newest first, so that what the run itself wrote over isn't told as a difference.
 */
public final class Verification {
    /** So many differences are told one by one; all are counted. */
    public static final int MOST_TOLD = 1_000;

    private final LedgerWrites writes;
    private final LedgerChunks ledger;
    private final Function<String, Writes> systems;
    private final Runnable row;

    private long asked;
    private long equal;
    private long differ;
    private long gone;
    private final List<Difference> told = new ArrayList<>();
    /** Fields of records that a later line of the same run has written, where several writes go to one record type. */
    private final Map<List<Object>, Set<String>> later = new HashMap<>();

    /**
     * A comparison.
     *
     * @param row called for each line that is compared; may throw to end it
     */
    public Verification(LedgerWrites writes, LedgerChunks ledger, Function<String, Writes> systems, Runnable row) {
        this.writes = writes;
        this.ledger = ledger;
        this.systems = systems;
        this.row = row;
    }

    /**
     * What was found.
     *
     * @param asked how many records were compared
     * @param differences the first of them, newest line first
     */
    public record Result(long asked, long equal, long differ, long gone, List<Difference> differences) {
        public Result {
            differences = List.copyOf(differences);
        }
    }

    /**
     * A record that is not as the run has left it.
     *
     * @param gone whether it isn't there; or is there again, where the run had removed it
     */
    public record Difference(LedgerRow line, boolean gone, List<Field> fields) {
        public Difference {
            fields = List.copyOf(fields);
        }
    }

    /** A field that differs, by its place among those of the write. */
    public record Field(
            int field, @Nullable Object written, @Nullable Object stored) {}

    /**
     * Compares all records that the run has changed, or a sample of them.
     *
     * @param sample how many; empty for all
     * @param seed the same seed chooses the same sample
     */
    public Result compare(OptionalLong sample, long seed) {
        List<Chunk.Head> chunks = ledger.chunks().reversed();
        Choice choice = new Choice(
                sample, chunks.stream().mapToLong(Verification::changed).sum(), new Random(seed));
        List<TargetOpening> openings = TargetOpening.of(writes, systems);
        List<Target> targets = new ArrayList<>();
        try {
            openings.forEach(one -> targets.add(systems.apply(one.connection()).target(one.records(), one.use())));
            for (Chunk.Head head : chunks) {
                if (changed(head) > 0) {
                    compare(ChunkCodec.rows(ledger.chunk(head.batch()), writes), targets, choice);
                }
            }
        } finally {
            targets.forEach(Target::close);
        }
        return new Result(asked, equal, differ, gone, told);
    }

    private static long changed(Chunk.Head head) {
        List<Counts> all = head.tally().writes().isEmpty()
                ? List.of(head.counts())
                : head.tally().writes();
        return all.stream()
                .mapToLong(counts -> counts.inserted() + counts.updated() + counts.deleted())
                .sum();
    }

    /** Chooses a sample of known size out of lines of known number, each line with the same chance. */
    private static final class Choice {
        private long wanted;
        private long left;
        private final Random random;

        Choice(OptionalLong sample, long lines, Random random) {
            this.wanted = Math.min(sample.orElse(lines), lines);
            this.left = lines;
            this.random = random;
        }

        boolean takes() {
            boolean taken = random.nextDouble() * left < wanted;
            left--;
            wanted -= taken ? 1 : 0;
            return taken;
        }
    }

    private void compare(List<LedgerRow> rows, List<Target> targets, Choice choice) {
        for (int write = targets.size() - 1; write >= 0; write--) {
            List<LedgerRow> lines = new ArrayList<>();
            for (LedgerRow line : LedgerChanges.of(rows, write)) {
                row.run();
                if (choice.takes()) {
                    lines.add(line);
                }
            }
            if (!lines.isEmpty()) {
                compare(write, lines, targets.get(write));
            }
            if (isShared(write)) {
                LedgerChanges.of(rows, write).forEach(this::noteWritten);
            }
        }
    }

    private void compare(int write, List<LedgerRow> lines, Target target) {
        ChangeSet changes = new LedgerChanges(target.cells(), true).of(lines);
        Stored stored = new Stored(write, lines, changes);
        int[] all = IntStream.range(0, lines.size()).toArray();
        target.find(changes.rows(), all, stored);
        asked += all.length;
        for (int i : all) {
            stored.conclude(i);
        }
    }

    /** The records of some lines, as they come. */
    private final class Stored implements Target.Found {
        private final int write;
        private final List<LedgerRow> lines;
        private final ChangeSet changes;
        private final boolean[] there;
        private final List<List<Field>> fields = new ArrayList<>();

        Stored(int write, List<LedgerRow> lines, ChangeSet changes) {
            this.write = write;
            this.lines = lines;
            this.changes = changes;
            this.there = new boolean[lines.size()];
            lines.forEach(line -> fields.add(new ArrayList<>()));
        }

        @Override
        public void take(int place, StoredRecord record) {
            there[place] = true;
            LedgerRow line = lines.get(place);
            Cells cells = changes.cells();
            Set<String> over = later.getOrDefault(name(write, line), Set.of());
            List<String> names = writes.get(write).fields();
            for (int field = 0; field < cells.fields().size(); field++) {
                CellCodec codec = cells.fields().get(field);
                boolean same = codec.same(
                        changes.rows().data(), changes.rows().at(place, field), record.data(), record.fieldAt(field));
                if (line.changed().get(field) && !over.contains(names.get(field)) && !same) {
                    fields.get(place)
                            .add(new Field(
                                    field, line.after()[field], codec.read(record.data(), record.fieldAt(field))));
                }
            }
        }

        void conclude(int place) {
            LedgerRow line = lines.get(place);
            boolean removed = line.outcome() == Outcome.DELETED;
            if (there[place] == removed) {
                gone++;
                tell(new Difference(line, true, List.of()));
            } else if (removed || fields.get(place).isEmpty()) {
                equal++;
            } else {
                differ++;
                tell(new Difference(line, false, fields.get(place)));
            }
        }
    }

    private void tell(Difference difference) {
        if (told.size() < MOST_TOLD) {
            told.add(difference);
        }
    }

    /** Whether another write goes to the same records. */
    private boolean isShared(int write) {
        Write one = writes.get(write);
        return writes.writes().stream()
                        .filter(other -> other.target().equals(one.target()))
                        .count()
                > 1;
    }

    private List<Object> name(int write, LedgerRow line) {
        return List.of(writes.get(write).target(), line.id() == null ? List.of() : line.id());
    }

    private void noteWritten(LedgerRow line) {
        Set<String> written = later.computeIfAbsent(name(line.write(), line), any -> new HashSet<>());
        List<String> names = writes.get(line.write()).fields();
        line.changed().stream().mapToObj(names::get).forEach(written::add);
    }
}

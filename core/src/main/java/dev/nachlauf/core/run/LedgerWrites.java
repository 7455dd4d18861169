package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Grouping;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.Removal;
import java.util.List;
import java.util.function.ToIntFunction;
import java.util.stream.Stream;

/**
 * The writes of a run as its ledger knows them, in order. They are all that is needed to read it and to write by it, so
 * that needs no plan.
 *
 * @param grouping what becomes of the other rows of a group when one is refused
 */
public record LedgerWrites(List<Write> writes, Grouping grouping) {
    public LedgerWrites {
        writes = List.copyOf(writes);
    }

    /**
     * One write.
     *
     * @param connection its name in the job
     * @param records the record type
     * @param key the names of the key's fields
     * @param fields the names of all written fields, in the order of their values
     * @param main whether it is the one that lists show
     * @param removal whether its records are those that the source no longer has, so that no row stands behind them
     */
    public record Write(
            String name,
            String connection,
            String records,
            List<String> key,
            List<String> fields,
            boolean main,
            boolean removal) {
        public Write {
            key = List.copyOf(key);
            fields = List.copyOf(fields);
        }

        /** A write that takes rows of the source. */
        public Write(
                String name, String connection, String records, List<String> key, List<String> fields, boolean main) {
            this(name, connection, records, key, fields, main, false);
        }

        /** What it writes to, for people. */
        String target() {
            return connection + " " + records;
        }
    }

    /** The writes of a plan; what is removed goes last, that of the last write first, so that children go before parents. */
    public static LedgerWrites of(Plan plan) {
        Stream<Write> writes = plan.writes().stream().map(write -> of(plan, write));
        Stream<Write> removals = plan.replacing().stream().map(LedgerWrites::removal);
        return new LedgerWrites(Stream.concat(writes, removals).toList(), plan.grouping());
    }

    private static Write removal(PlannedWrite write) {
        Removal removal = write.removal().orElseThrow();
        return new Write(
                Removal.name(write.name()),
                write.connection(),
                write.target().name(),
                removal.key(),
                removal.fieldNames(),
                false,
                true);
    }

    private static Write of(Plan plan, PlannedWrite write) {
        return new Write(
                write.name(),
                write.connection(),
                write.target().name(),
                write.keyNames(),
                write.fieldNames(),
                write == plan.main());
    }

    /** Whether each row goes to one write and stands for itself, so that it can be refused alone. */
    public boolean simple() {
        return sourced() <= 1 && grouping == Grouping.NONE;
    }

    int count() {
        return writes.size();
    }

    /** How many of them take rows of the source; they stand before the others. */
    int sourced() {
        return Math.toIntExact(writes.stream().filter(write -> !write.removal).count());
    }

    Write get(int write) {
        return writes.get(write);
    }

    /** The place of the main one. */
    int main() {
        for (int w = 0; w < writes.size(); w++) {
            if (writes.get(w).main) {
                return w;
            }
        }
        return 0;
    }

    /** Chunks are as wide as the widest write. */
    int keyWidth() {
        return widest(write -> write.key.size());
    }

    /** How many fields the widest write has. */
    int fieldWidth() {
        return widest(write -> write.fields.size());
    }

    private int widest(ToIntFunction<Write> width) {
        return writes.stream().mapToInt(width).max().orElse(0);
    }
}

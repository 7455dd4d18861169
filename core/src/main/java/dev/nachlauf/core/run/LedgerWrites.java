package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import java.util.List;
import java.util.function.ToIntFunction;

/**
 * The writes of a run as its ledger knows them, in order. They are all that is needed to read it and to write by it, so
 * that needs no plan.
 *
 * @param simple whether each row goes to one write and stands for itself, so that it can be refused alone
 */
public record LedgerWrites(List<Write> writes, boolean simple) {
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
     */
    public record Write(
            String name, String connection, String records, List<String> key, List<String> fields, boolean main) {
        public Write {
            key = List.copyOf(key);
            fields = List.copyOf(fields);
        }

        /** What it writes to, for people. */
        String target() {
            return connection + " " + records;
        }
    }

    /** The writes of a plan. */
    public static LedgerWrites of(Plan plan) {
        return new LedgerWrites(
                plan.writes().stream().map(write -> of(plan, write)).toList(), plan.isSimple());
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

    int count() {
        return writes.size();
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

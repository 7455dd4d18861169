package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.Settlement;
import dev.nachlauf.core.system.Target.Token;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** Clears up what a crash left in doubt: chunks that were saved, but whose commit nobody saw. */
final class Settling {
    private final Plan plan;
    private final Targets targets;
    private final RunRecords records;
    private final HalfWritten halfWritten;
    private final BatchLedger ledger;

    Settling(Plan plan, Targets targets, RunRecords records, HalfWritten halfWritten) {
        this.plan = plan;
        this.targets = targets;
        this.records = records;
        this.halfWritten = halfWritten;
        this.ledger = new BatchLedger(plan);
    }

    /** Asks the targets about every pending chunk; afterwards each is either done or gone. */
    void settle() {
        for (Chunk.Head head : records.chunks()) {
            if (head.state() == Chunk.State.PENDING) {
                settle(records.chunk(head.batch()));
            }
        }
    }

    private void settle(Chunk chunk) {
        Set<Integer> open = new TreeSet<>();
        Set<Integer> written = new TreeSet<>();
        List<LedgerRow> rows = ledger.rows(chunk);
        for (int w = 0; w < plan.writes().size(); w++) {
            int connection = targets.connection(w);
            List<Change> changes = inDoubt(rows, w, plan.writes().get(w));
            if (changes.isEmpty() || open.contains(connection) || written.contains(connection)) {
                continue;
            }
            Token token = chunk.head().tokens().get(connection);
            // a connection of which nobody has to be asked any more was committed by an earlier attempt
            boolean committed = token == null || isCommitted(targets.of(w), token, changes, chunk.head());
            (committed ? written : open).add(connection);
        }
        int batch = chunk.head().batch();
        if (open.isEmpty()) {
            records.settled(List.of(batch));
        } else if (written.isEmpty()) {
            records.drop(batch);
        } else {
            halfWritten.finish(chunk, open);
        }
    }

    /** The writes of a connection are one transaction, so one of them that is there means that all are. */
    private static boolean isCommitted(Target target, Token token, List<Change> changes, Chunk.Head head) {
        return switch (target.settle(token, changes)) {
            case Settlement.Committed ignored -> true;
            case Settlement.RolledBack ignored -> false;
            case Settlement.NotYet ignored ->
                throw new CannotGoOn(Problem.of(
                        ProblemCode.UNREACHABLE,
                        "The target can't say yet whether batch " + head.batch() + " was committed.",
                        "The run asks again by itself."));
            case Settlement.PerRecord ignored ->
                throw new IllegalStateException("targets that answer per record are not written to so far");
        };
    }

    private static List<Change> inDoubt(List<LedgerRow> rows, int index, PlannedWrite write) {
        List<Change> changes = new ArrayList<>();
        for (LedgerRow row : rows) {
            if (row.write() != index) {
                continue;
            }
            Object[] key = row.key() == null
                    ? new Object[0]
                    : row.key().subList(0, write.key().size()).toArray();
            if (row.outcome() == Outcome.INSERTED) {
                changes.add(new Change.Insert(row.number(), row.number(), key, row.id(), cut(row.after(), write)));
            } else if (row.outcome() == Outcome.UPDATED) {
                changes.add(new Change.Update(
                        row.number(),
                        row.number(),
                        key,
                        Objects.requireNonNull(row.id()),
                        "",
                        cut(row.before(), write),
                        cut(row.after(), write),
                        row.changed()));
            }
        }
        return changes;
    }

    /** Chunks are as wide as the widest write. */
    private static @Nullable Object[] cut(@Nullable Object[] values, PlannedWrite write) {
        return Arrays.copyOf(values, write.fields().size());
    }
}

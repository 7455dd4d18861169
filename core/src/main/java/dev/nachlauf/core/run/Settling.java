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
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Clears up what a crash left in doubt: chunks that were saved, but whose commit nobody saw. */
final class Settling {
    private Settling() {}

    /** Asks the target about every pending chunk; afterwards each is either done or gone. */
    static void settle(Plan plan, Targets targets, RunRecords records) {
        for (Chunk.Head head : records.chunks()) {
            if (head.state() == Chunk.State.PENDING) {
                settle(plan, targets, records, head);
            }
        }
    }

    private static void settle(Plan plan, Targets targets, RunRecords records, Chunk.Head head) {
        Chunk chunk = records.chunk(head.batch());
        List<LedgerRow> rows = ChunkCodec.rows(chunk.rows(), BatchLedger.keyWidth(plan), BatchLedger.fields(plan));
        boolean committed = false;
        for (int w = 0; w < plan.writes().size() && !committed; w++) {
            List<Change> changes = inDoubt(rows, w, plan.writes().get(w));
            committed = !changes.isEmpty() && isCommitted(targets.of(w), head, changes);
        }
        if (committed) {
            records.settled(List.of(head.batch()));
        } else {
            records.drop(head.batch());
        }
    }

    /** All writes of a batch are one transaction, so one of them that is there means that all are. */
    private static boolean isCommitted(Target target, Chunk.Head head, List<Change> changes) {
        return switch (target.settle(head.token().orElseThrow(), changes)) {
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

package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Outcome;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Change;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.Settlement;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;

/** Clears up what a crash left in doubt: chunks that were saved, but whose commit nobody saw. */
final class Settling {
    private Settling() {}

    /** Asks the target about every pending chunk; afterwards each is either done or gone. */
    static void settle(Plan plan, Target target, RunRecords records) {
        for (Chunk.Head head : records.chunks()) {
            if (head.state() == Chunk.State.PENDING) {
                settle(plan, target, records, head);
            }
        }
    }

    private static void settle(Plan plan, Target target, RunRecords records, Chunk.Head head) {
        Chunk chunk = records.chunk(head.batch());
        List<LedgerRow> rows =
                ChunkCodec.rows(chunk.rows(), plan.key().size(), plan.fields().size());
        Settlement settlement = target.settle(head.token().orElseThrow(), inDoubt(rows));
        switch (settlement) {
            case Settlement.Committed ignored -> records.settled(List.of(head.batch()));
            case Settlement.RolledBack ignored -> records.drop(head.batch());
            case Settlement.NotYet ignored ->
                throw new CannotGoOn(Problem.of(
                        ProblemCode.UNREACHABLE,
                        "The target can't say yet whether batch " + head.batch() + " was committed.",
                        "The run asks again by itself."));
            case Settlement.PerRecord ignored ->
                throw new IllegalStateException("targets that answer per record are not written to so far");
        }
    }

    private static List<Change> inDoubt(List<LedgerRow> rows) {
        List<Change> changes = new ArrayList<>();
        for (LedgerRow row : rows) {
            Object[] key = row.key() == null ? new Object[0] : row.key().toArray();
            if (row.outcome() == Outcome.INSERTED) {
                changes.add(new Change.Insert(row.number(), row.number(), key, row.id(), row.after()));
            } else if (row.outcome() == Outcome.UPDATED) {
                changes.add(new Change.Update(
                        row.number(),
                        row.number(),
                        key,
                        Objects.requireNonNull(row.id()),
                        "",
                        row.before(),
                        row.after(),
                        row.changed()));
            }
        }
        return changes;
    }
}

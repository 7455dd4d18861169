package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.ChangeSet;
import dev.nachlauf.core.system.Target;
import dev.nachlauf.core.system.Target.Settlement;
import dev.nachlauf.core.system.Target.Token;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** Clears up what a crash left in doubt: chunks that were saved, but whose commit nobody saw. */
final class Settling {
    private final List<Written> writes;
    private final RunRecords records;
    private final Optional<HalfWritten> halfWritten;
    private final Runnable pulse;
    private final int keyWidth;
    private final int fieldWidth;

    /**
     * What one write wrote to.
     *
     * @param connection its number
     * @param target what can be asked; null where it is no longer there
     * @param keyWidth how many parts its key has
     * @param allFields how many fields it wrote
     * @param fields those that the target was opened for, by their place in the ledger
     */
    record Written(int connection, @Nullable Target target, int keyWidth, int allFields, int[] fields) {}

    /** @param halfWritten brings to its end what one connection has and another has not; empty where nobody can */
    Settling(List<Written> writes, RunRecords records, Optional<HalfWritten> halfWritten, Runnable pulse) {
        this.writes = writes;
        this.records = records;
        this.halfWritten = halfWritten;
        this.pulse = pulse;
        this.keyWidth = writes.stream().mapToInt(Written::keyWidth).max().orElse(0);
        this.fieldWidth = writes.stream().mapToInt(Written::allFields).max().orElse(0);
    }

    /** What the writes of a plan write to. */
    static List<Written> of(Plan plan, Targets targets) {
        return IntStream.range(0, plan.writes().size())
                .mapToObj(w -> {
                    int fields = plan.writes().get(w).fields().size();
                    return new Written(
                            targets.connection(w),
                            targets.of(w),
                            plan.writes().get(w).key().size(),
                            fields,
                            IntStream.range(0, fields).toArray());
                })
                .toList();
    }

    /** Asks about every pending chunk; afterwards each is done or gone, but for those about which nobody can be asked. */
    void settle() {
        for (Chunk.Head head : records.chunks()) {
            if (head.state() == Chunk.State.PENDING) {
                pulse.run();
                settle(records.chunk(head.batch()));
            }
        }
    }

    private void settle(Chunk chunk) {
        Set<Integer> open = new TreeSet<>();
        Set<Integer> written = new TreeSet<>();
        Set<Integer> unasked = new TreeSet<>();
        List<LedgerRow> rows = ChunkCodec.rows(chunk.rows(), keyWidth, fieldWidth);
        for (int w = 0; w < writes.size(); w++) {
            Written write = writes.get(w);
            int connection = write.connection();
            List<LedgerRow> lines = LedgerChanges.of(rows, w);
            if (lines.isEmpty() || open.contains(connection) || written.contains(connection)) {
                continue;
            }
            Token token = chunk.head().tokens().get(connection);
            if (token != null && write.target() == null) {
                unasked.add(connection);
                continue;
            }
            // a connection of which nobody has to be asked any more was committed by an earlier attempt
            boolean committed = token == null
                    || isCommitted(Objects.requireNonNull(write.target()), token, lines, write, chunk.head());
            (committed ? written : open).add(connection);
            unasked.remove(connection);
        }
        if (unasked.isEmpty()) {
            conclude(chunk, open, written);
        }
    }

    private void conclude(Chunk chunk, Set<Integer> open, Set<Integer> written) {
        int batch = chunk.head().batch();
        if (open.isEmpty()) {
            records.settled(List.of(batch));
        } else if (written.isEmpty()) {
            records.drop(batch);
        } else {
            halfWritten.ifPresent(half -> half.finish(chunk, open));
        }
    }

    /** The writes of a connection are one transaction, so one of them that is there means that all are. */
    private static boolean isCommitted(
            Target target, Token token, List<LedgerRow> lines, Written write, Chunk.Head head) {
        ChangeSet inDoubt = new LedgerChanges(target.cells(), lines, write.fields()).asTheyStand();
        return switch (target.settle(token, inDoubt)) {
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
}

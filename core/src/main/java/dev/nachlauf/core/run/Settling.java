package dev.nachlauf.core.run;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
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
    private final Optional<Endings> endings;
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

    /** What brings batches to their end of which something is written and something is not. */
    record Endings(HalfWritten halfWritten, HalfSent halfSent) {}

    /** @param endings empty where nobody can write any more */
    Settling(List<Written> writes, RunRecords records, Optional<Endings> endings, Runnable pulse) {
        this.writes = writes;
        this.records = records;
        this.endings = endings;
        this.pulse = pulse;
        this.keyWidth = writes.stream().mapToInt(Written::keyWidth).max().orElse(0);
        this.fieldWidth = writes.stream().mapToInt(Written::allFields).max().orElse(0);
    }

    /** What the writes of a run write to. */
    static List<Written> of(LedgerWrites writes, Targets targets) {
        return IntStream.range(0, writes.count())
                .mapToObj(w -> {
                    int fields = writes.get(w).fields().size();
                    return new Written(
                            targets.connection(w),
                            targets.of(w),
                            writes.get(w).key().size(),
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
        Set<Integer> asked = new TreeSet<>();
        Set<Integer> open = new TreeSet<>();
        Set<Integer> unasked = new TreeSet<>();
        boolean byRecord = false;
        List<LedgerRow> rows = ChunkCodec.rows(chunk.rows(), keyWidth, fieldWidth);
        for (int w = 0; w < writes.size(); w++) {
            Written write = writes.get(w);
            int connection = write.connection();
            List<LedgerRow> lines = LedgerChanges.of(rows, w);
            if (lines.isEmpty() || asked.contains(connection)) {
                continue;
            }
            Token token = chunk.head().tokens().get(connection);
            if (token != null && write.target() == null) {
                unasked.add(connection);
                continue;
            }
            asked.add(connection);
            unasked.remove(connection);
            // a connection of which nobody has to be asked any more was committed by an earlier attempt
            if (token != null) {
                switch (ask(Objects.requireNonNull(write.target()), token, lines, write)) {
                    case Settlement.Committed ignored -> {}
                    case Settlement.RolledBack ignored -> open.add(connection);
                    case Settlement.PerRecord ignored -> byRecord = true;
                    case Settlement.NotYet ignored -> throw notYet(chunk.head());
                }
            }
        }
        if (byRecord) {
            endings.ifPresent(all -> all.halfSent.finish(chunk));
        } else if (unasked.isEmpty()) {
            conclude(chunk, open, asked.size() > open.size());
        }
    }

    private void conclude(Chunk chunk, Set<Integer> open, boolean anyWritten) {
        int batch = chunk.head().batch();
        if (open.isEmpty()) {
            records.settled(List.of(batch));
        } else if (!anyWritten) {
            records.drop(batch);
        } else {
            endings.ifPresent(all -> all.halfWritten.finish(chunk, open));
        }
    }

    /** The writes of a connection are one transaction, so one of them that is there means that all are. */
    private static Settlement ask(Target target, Token token, List<LedgerRow> lines, Written write) {
        return target.settle(token, new LedgerChanges(target.cells(), write.fields(), true).of(lines));
    }

    private static CannotGoOn notYet(Chunk.Head head) {
        return new CannotGoOn(Problem.of(
                ProblemCode.UNREACHABLE,
                "The target can't say yet whether batch " + head.batch() + " was committed.",
                "The run asks again by itself."));
    }
}

package dev.nachlauf.core.run;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Brings a batch to its end that one connection has committed and another has not, because a crash came between the two.
 * What is rejected of it says what has been written.
 */
final class HalfWritten {
    private final Attempt attempt;
    private final Targets targets;
    private final LineWriter writer;
    private final LinesLedger ledger;

    HalfWritten(Attempt attempt, Targets targets, LateRejects rejects) {
        this.attempt = attempt;
        this.targets = targets;
        this.writer = new LineWriter(attempt, targets, rejects);
        this.ledger = new LinesLedger(attempt.writes(), targets.cells());
    }

    /** @param open the connections in which nothing of the batch was committed */
    void finish(Chunk chunk, Set<Integer> open) {
        writer.write(ledger.unpack(chunk), new Rest(open));
    }

    /** The rest of a batch. */
    private final class Rest implements LineWriter.Rules {
        private final Set<Integer> open;

        Rest(Set<Integer> open) {
            this.open = open;
        }

        @Override
        public boolean covers(int write) {
            return open.contains(targets.connection(write));
        }

        @Override
        public Problem changed() {
            return LateRejects.CHANGED;
        }

        @Override
        public boolean ownIds(int write) {
            return targets.hasIdOfItsOwn(write);
        }

        @Override
        public List<Problem> said(LedgerRow row, List<Problem> why) {
            List<Problem> problems = new ArrayList<>(why);
            List<LedgerWrites.Write> writes = attempt.writes().writes();
            String written = writes.stream()
                    .filter(write -> !covers(writes.indexOf(write)))
                    .map(LedgerWrites.Write::target)
                    .distinct()
                    .collect(Collectors.joining(", "));
            problems.add(Problem.of(
                    ProblemCode.HALF_WRITTEN,
                    "The run was interrupted after it had written " + written + " and before it had written "
                            + writes.get(row.write()).connection() + ".",
                    "Send the row again: what is written already is left alone."));
            return problems;
        }

        @Override
        public boolean keep(Chunk chunk) {
            attempt.records().replace(chunk);
            return true;
        }

        @Override
        public void committed(Chunk chunk) {
            if (!chunk.head().tokens().isEmpty()) {
                attempt.records().settled(List.of(chunk.head().batch()));
            }
        }
    }
}

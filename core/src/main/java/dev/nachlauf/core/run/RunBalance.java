package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.List;

/** What the chunks of a run add up to. */
public final class RunBalance {
    private RunBalance() {}

    /** What the chunks say of steps and writes, but for those in doubt. */
    public static Tally tally(List<Chunk.Head> chunks) {
        return chunks.stream()
                .filter(head -> head.state().isKnown())
                .map(Chunk.Head::tally)
                .reduce(Tally.NONE, Tally::plus);
    }

    /** What the chunks say of reading and of the main write, but for those in doubt. */
    static Counts counts(List<Chunk.Head> chunks) {
        return chunks.stream()
                .filter(head -> head.state().isKnown())
                .map(Chunk.Head::counts)
                .reduce(Counts.NONE, Counts::plus);
    }

    /** How many rows the chunks hold, in doubt or not. */
    static long rows(List<Chunk.Head> chunks) {
        return chunks.stream().mapToLong(head -> head.counts().read()).sum();
    }

    /**
     * The balance of a run by its chunks.
     *
     * @param rows the rows that were read, counted by themselves
     * @param simple whether every row that passes goes to one write
     */
    public static Balance of(long rows, List<Chunk.Head> chunks, boolean simple) {
        long unknown = chunks.stream()
                .filter(head -> head.state() == Chunk.State.PENDING)
                .mapToLong(head -> head.counts().read())
                .sum();
        return new Balance(rows, counts(chunks), tally(chunks), simple, unknown);
    }

    /** Whether every row that passes goes to one write. */
    static boolean isSimple(Plan plan) {
        return plan.isSimple()
                && new StepTally(plan).isLevel()
                && plan.writes().getFirst().when().isEmpty();
    }

    /** The end of a run whose rows are not all accounted for. */
    static RunResult broken(List<Problem> warnings, Balance balance, String gap) {
        return new RunResult(
                RunState.FAILED,
                List.of(Problem.of(ProblemCode.BALANCE_BROKEN, gap, "This is a defect of Nachlauf; please report it.")),
                warnings,
                balance);
    }
}

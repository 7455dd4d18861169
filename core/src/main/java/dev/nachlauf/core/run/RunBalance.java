package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Balance;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.Tally;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.List;
import java.util.Optional;

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

    /**
     * The end of a run that has come to its last batch, or was stopped before.
     *
     * @param held why nothing more is to be written; empty where nothing stands against it
     * @param stopped whether somebody has stopped it; without that no row may be left
     */
    static RunResult ended(Balance balance, Optional<Problem> held, boolean stopped, List<Problem> warnings) {
        if (balance.gap().isPresent()) {
            return broken(warnings, balance, balance.gap().get());
        }
        if (held.isPresent()) {
            return new RunResult(RunState.HELD, List.of(held.get()), warnings, balance);
        }
        if (balance.unreached() == 0) {
            return new RunResult(RunState.FINISHED, List.of(), warnings, balance);
        }
        return stopped
                ? new RunResult(RunState.STOPPED, List.of(), warnings, balance)
                : broken(
                        warnings,
                        balance,
                        balance.unreached() + " of " + balance.read()
                                + " rows are in no batch, though nobody stopped the run.");
    }

    /** The end of a run whose rows are not all accounted for. */
    private static RunResult broken(List<Problem> warnings, Balance balance, String gap) {
        return new RunResult(
                RunState.FAILED,
                List.of(Problem.of(ProblemCode.BALANCE_BROKEN, gap, "This is a defect of Nachlauf; please report it.")),
                warnings,
                balance);
    }
}

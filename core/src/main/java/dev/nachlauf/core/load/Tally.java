package dev.nachlauf.core.load;

import java.util.ArrayList;
import java.util.List;

/**
 * What {@link Counts} doesn't say of a run with steps or with several writes.
 *
 * @param steps one count per step of the job, and one for the maps behind them
 * @param writes the outcomes of each write; empty where there is one write only
 * @param removals what became of records that the source no longer has, for each write that replaces; no row stands for
 *     them
 * @param elsewhere distinct rows that a write other than the main one rejected, and the main one did not
 * @param sources source rows of which something was rejected, each counted once
 * @param refused those of them of which nothing was rejected before the target was asked
 */
public record Tally(
        List<StepCount> steps, List<Counts> writes, List<Counts> removals, long elsewhere, long sources, long refused) {
    /** Nothing. */
    public static final Tally NONE = new Tally(List.of(), List.of(), List.of(), 0, 0, 0);

    public Tally {
        steps = List.copyOf(steps);
        writes = List.copyOf(writes);
        removals = List.copyOf(removals);
    }

    /** The sum. */
    public Tally plus(Tally other) {
        List<StepCount> allSteps = new ArrayList<>();
        for (int i = 0; i < Math.max(steps.size(), other.steps.size()); i++) {
            allSteps.add(step(i).plus(other.step(i)));
        }
        return new Tally(
                allSteps,
                sums(writes, other.writes),
                sums(removals, other.removals),
                elsewhere + other.elsewhere,
                sources + other.sources,
                refused + other.refused);
    }

    /**
     * The outcomes of all writes, then those of removals.
     *
     * @param main those of the main write, which is all there are where there is one only
     */
    public List<Counts> outcomes(Counts main) {
        List<Counts> all = new ArrayList<>(writes.isEmpty() ? List.of(main) : writes);
        all.addAll(removals);
        return all;
    }

    private StepCount step(int index) {
        return index < steps.size() ? steps.get(index) : StepCount.NONE;
    }

    private static List<Counts> sums(List<Counts> some, List<Counts> others) {
        List<Counts> sums = new ArrayList<>();
        for (int i = 0; i < Math.max(some.size(), others.size()); i++) {
            sums.add(at(some, i).plus(at(others, i)));
        }
        return sums;
    }

    private static Counts at(List<Counts> counts, int index) {
        return index < counts.size() ? counts.get(index) : Counts.NONE;
    }
}

package dev.nachlauf.core.run;

import dev.nachlauf.core.load.Fate;
import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.TargetRow;
import java.util.ArrayList;
import java.util.List;

/** Counts for each step what came to it and what became of that, from the rows behind the last step. */
final class StepTally {
    private final int steps;
    /** How many steps above this one change the number of rows. */
    private final int[] levels;

    private final boolean[] changes;
    private final int firstChanging;

    StepTally(Plan plan) {
        steps = plan.job().steps().size();
        changes = new boolean[steps + 1];
        plan.steps().stream().filter(PlannedStep::changesRows).forEach(step -> changes[step.index()] = true);
        levels = new int[steps + 1];
        for (int i = 1; i <= steps; i++) {
            levels[i] = levels[i - 1] + (changes[i - 1] ? 1 : 0);
        }
        int first = 0;
        while (first < steps && !changes[first]) {
            first++;
        }
        firstChanging = first;
    }

    /** Whether the number of rows stays as it was read. */
    boolean isLevel() {
        return levels[steps] == 0;
    }

    /** The counts of a batch, of which no row was added yet. */
    Sums sums() {
        return new Sums();
    }

    /** Adds rows up. */
    final class Sums {
        private final long[][] sums = new long[steps + 1][4];
        private long passed;

        void add(TargetRow row) {
            if (row.passed() && isLevel()) {
                passed++;
            } else {
                StepTally.this.add(row, sums);
            }
        }

        /** One count per step, and one for the maps behind them. */
        List<StepCount> counts() {
            List<StepCount> counts = new ArrayList<>();
            for (long[] sum : sums) {
                counts.add(new StepCount(sum[0] + passed, sum[1] + passed, sum[2], sum[3]));
            }
            return counts;
        }
    }

    private void add(TargetRow target, long[][] sums) {
        FlowRow row = target.row();
        int settledBy = place(fate(target));
        long[] stands = row.stands();
        int level = stands.length - 1;
        for (int step = 0; step <= steps; step++) {
            if (level < levels[step] || settledBy < 0 || settledBy < step && level == levels[step]) {
                return;
            }
            sums[step][0] += stands[levels[step]];
            boolean made = changes[step] && level > levels[step];
            long going = made ? stands[levels[step] + 1] : stands[levels[step]];
            boolean here = settledBy == step && level == (made ? levels[step] + 1 : levels[step]);
            if (!here) {
                sums[step][1] += going;
            } else if (target.skipped() != null) {
                sums[step][2] += going;
            } else {
                sums[step][3] += going;
            }
            if (here) {
                return;
            }
        }
    }

    /** Where the way of a row ended before it came to a target. */
    Fate fate(TargetRow target) {
        FlowRow row = target.row();
        if (target.passed()) {
            return new Fate.Written();
        }
        if (row.skipped() == null && row.problems().isEmpty()) {
            return new Fate.Mapped();
        }
        return row.settledBy() < 0 ? new Fate.Read() : new Fate.Step(row.settledBy());
    }

    /** The place of the step at which a way ended; the reader stands before the first one, the maps behind the last. */
    private int place(Fate fate) {
        return switch (fate) {
            case Fate.Read ignored -> -1;
            case Fate.Step step -> step.index();
            case Fate.Mapped ignored -> steps;
            case Fate.Untaken ignored -> steps;
            case Fate.Write ignored -> steps + 1;
            case Fate.Written ignored -> steps + 1;
        };
    }

    /** Whether a row was settled before the first step that changes the number of rows. */
    boolean isReading(TargetRow target) {
        return isLevel() || target.row().stands().length == 1 && place(fate(target)) < firstChanging;
    }
}

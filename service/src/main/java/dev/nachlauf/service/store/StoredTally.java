package dev.nachlauf.service.store;

import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.load.Tally;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** The names under which steps and further writes of a batch or a run are kept; null stands for what came later. */
record StoredTally(
        @Nullable List<Step> steps, @Nullable List<StoredCounts> writes, long elsewhere, long sources, long refused) {
    record Step(long in, long out, long skipped, long rejected) {}

    static StoredTally of(Tally tally) {
        return new StoredTally(
                tally.steps().stream()
                        .map(step -> new Step(step.in(), step.out(), step.skipped(), step.rejected()))
                        .toList(),
                tally.writes().stream().map(StoredCounts::of).toList(),
                tally.elsewhere(),
                tally.sources(),
                tally.refused());
    }

    Tally tally() {
        return new Tally(
                Objects.requireNonNullElse(steps, List.<Step>of()).stream()
                        .map(step -> new StepCount(step.in, step.out, step.skipped, step.rejected))
                        .toList(),
                Objects.requireNonNullElse(writes, List.<StoredCounts>of()).stream()
                        .map(StoredCounts::counts)
                        .toList(),
                elsewhere,
                sources,
                refused);
    }
}

package dev.nachlauf.service.store;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.nachlauf.core.load.Counts;
import dev.nachlauf.core.load.StepCount;
import dev.nachlauf.core.load.Tally;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** The names under which steps and further writes of a batch or a run are kept; null stands for what came later. */
record StoredTally(
        @Nullable List<Step> steps,
        @Nullable List<StoredCounts> writes,
        long elsewhere,
        long sources,
        long refused,
        @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable List<StoredCounts> removals) {
    record Step(long in, long out, long skipped, long rejected) {}

    static StoredTally of(Tally tally) {
        return new StoredTally(
                tally.steps().stream()
                        .map(step -> new Step(step.in(), step.out(), step.skipped(), step.rejected()))
                        .toList(),
                tally.writes().stream().map(StoredCounts::of).toList(),
                tally.elsewhere(),
                tally.sources(),
                tally.refused(),
                tally.removals().isEmpty()
                        ? null
                        : tally.removals().stream().map(StoredCounts::of).toList());
    }

    Tally tally() {
        return new Tally(
                Objects.requireNonNullElse(steps, List.<Step>of()).stream()
                        .map(step -> new StepCount(step.in, step.out, step.skipped, step.rejected))
                        .toList(),
                counts(writes),
                counts(removals),
                elsewhere,
                sources,
                refused);
    }

    private static List<Counts> counts(@Nullable List<StoredCounts> stored) {
        return stored == null
                ? List.of()
                : stored.stream().map(StoredCounts::counts).toList();
    }
}

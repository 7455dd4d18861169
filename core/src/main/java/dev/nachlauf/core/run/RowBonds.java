package dev.nachlauf.core.run;

import dev.nachlauf.core.plan.Grouping;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.step.Leaders;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;

/**
 * How the rows of a batch are bound to each other. Rows of a group are written together or not at all. Where lines fail
 * alone, they are bound to the row that stands for them only: the first one that goes on, and the next one after that is
 * refused for what is wrong with itself.
 */
final class RowBonds {
    private final Batch batch;
    private final List<PlannedWrite> writes;
    private final boolean linesAlone;
    /** Whether a row stands for others that may outlive it. */
    private final boolean led;
    /** The positions of the rows that stand for others, by their group; empty where the first row of a group always does. */
    private final Map<Long, Long> leaders = new HashMap<>();

    RowBonds(Batch batch, Plan plan) {
        this.batch = batch;
        this.writes = plan.writes();
        this.linesAlone = plan.grouping() == Grouping.LINES_ALONE;
        this.led = linesAlone && writes.stream().anyMatch(PlannedWrite::oncePerGroup);
    }

    /** Chooses the rows that stand for their groups among those that go on. */
    void lead(IntPredicate goesOn) {
        if (!led) {
            return;
        }
        Leaders.choose(batch.flow(), goesOn);
        for (int row = 0; row < batch.size(); row++) {
            if (batch.flow(row).leads()) {
                leaders.put(batch.group(row), batch.position(row));
            }
        }
    }

    /** Whether a row was refused that stands for others which go on. */
    boolean isLeaderless(List<Integer> refused, IntPredicate goesOn) {
        return led
                && refused.stream()
                        .filter(row -> batch.flow(row).leads())
                        .anyMatch(row -> IntStream.range(row + 1, batch.size())
                                .takeWhile(other -> batch.group(other) == batch.group(row))
                                .anyMatch(goesOn));
    }

    /** Whether a row that a write refuses takes its group along. */
    boolean takesAlong(int write) {
        return !linesAlone || writes.get(write).oncePerGroup();
    }

    /** Whether a row stands for its group, so that no other one of it is written without it. */
    boolean stands(int row) {
        return !linesAlone || led && batch.flow(row).leads();
    }

    /** With what a row is refused: its group, or itself where lines fail alone. */
    long bond(int row) {
        return linesAlone ? batch.position(row) : batch.group(row);
    }

    /** The position of the row that stands for the group of a row; its own where it needs none. */
    long leader(int row) {
        return linesAlone && !led ? batch.position(row) : leaders.getOrDefault(batch.group(row), batch.group(row));
    }
}

package dev.nachlauf.core.run;

import dev.nachlauf.core.step.FlowRow;
import java.util.HashMap;
import java.util.Map;

/**
 * Counts rows of the source, each once: several rows behind the steps can come from one row of it, and one can stand for
 * many. Where a row that stands for many is divided, the parts that account for none of them count as one row.
 */
final class SourceRows {
    private final Map<Long, Long> counted = new HashMap<>();
    private final long most;
    private long sum;

    /** @param most beyond this number counting ends, so that memory stays bounded */
    SourceRows(long most) {
        this.most = most;
    }

    void add(FlowRow row) {
        add(row.source().number(), row.stands()[0]);
    }

    /** Adds a row that comes from this row of the source and stands for so many of them. */
    void add(long number, long stands) {
        if (sum > most) {
            return;
        }
        long rows = Math.max(1, stands);
        Long before = counted.get(number);
        if (before == null || before < rows) {
            counted.put(number, rows);
            sum += rows - (before == null ? 0 : before);
        }
    }

    boolean has(long number) {
        return counted.containsKey(number);
    }

    long sum() {
        return sum;
    }
}

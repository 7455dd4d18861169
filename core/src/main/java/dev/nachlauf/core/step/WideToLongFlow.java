package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.plan.PlannedStep.Wide;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** One row per filled column. A cell that can't be read rejects its own row only, not those of its neighbours. */
final class WideToLongFlow implements RowFlow {
    /** The reason of rows of which no column is filled. */
    static final String BLANK = "blank";

    private final RowFlow rows;
    private final int level;
    private final PlannedStep.WideToLong step;
    private final Deque<FlowRow> ready = new ArrayDeque<>();
    private long position;

    WideToLongFlow(RowFlow rows, int level, PlannedStep.WideToLong step) {
        this.rows = rows;
        this.level = level;
        this.step = step;
    }

    @Override
    public @Nullable FlowRow next() {
        while (ready.isEmpty()) {
            FlowRow row = rows.next();
            if (row == null) {
                return null;
            }
            if (row.skipped() != null
                    || !row.reached(level)
                    || !row.problems().stream().allMatch(problem -> isOfCell(problem, row))) {
                ready.add(row.at(++position));
            } else {
                split(row);
            }
        }
        return ready.poll();
    }

    /** A cell without a value rejects its own row; what a rule says of a column with one rejects them all. */
    private static boolean isOfCell(Problem problem, FlowRow row, Wide column) {
        return row.slots()[column.slot()] == BrokenInput.VALUE
                && problem.place() instanceof Place.InField field
                && field.field().equals(column.name());
    }

    private boolean isOfCell(Problem problem, FlowRow row) {
        return step.columns().stream().anyMatch(column -> isOfCell(problem, row, column));
    }

    private void split(FlowRow row) {
        long[] stands = row.stands();
        List<Amount> amounts = row.amounts();
        for (Wide column : step.columns()) {
            Object value = row.slots()[column.slot()];
            if (value == null && !step.keepBlank()) {
                continue;
            }
            @Nullable Object[] slots = row.slots().clone();
            slots[step.name().slot()] = column.name();
            slots[step.value().slot()] = value;
            FlowRow made = FlowRow.made(++position, row.source(), slots, stands, amounts);
            if (value == BrokenInput.VALUE) {
                problemsOf(row, column).forEach(problem -> made.reject(step.index(), problem));
            }
            made.warnings().addAll(row.warnings());
            ready.add(made);
            // the first one accounts for the row of the source
            stands = new long[stands.length];
            amounts = List.of();
        }
        if (ready.isEmpty()) {
            FlowRow blank = row.at(++position);
            blank.skip(step.index(), BLANK);
            ready.add(blank);
        }
    }

    private static List<Problem> problemsOf(FlowRow row, Wide column) {
        return row.problems().stream()
                .filter(problem -> isOfCell(problem, row, column))
                .toList();
    }

    @Override
    public long read() {
        return rows.read();
    }

    @Override
    public void close() {
        rows.close();
    }
}

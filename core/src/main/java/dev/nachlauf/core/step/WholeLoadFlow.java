package dev.nachlauf.core.step;

import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** A rule over all rows that go on at its place. Where it is false nothing is written, or a warning stands with the run. */
final class WholeLoadFlow implements RowFlow {
    private final RowFlow rows;
    private final PlannedStep.WholeLoad step;
    /** All rows are one group. */
    private final List<Totals> totals;

    private final Consumer<Problem> warnings;
    private boolean judged;

    WholeLoadFlow(RowFlow rows, PlannedStep.WholeLoad step, Consumer<Problem> warnings) {
        this.rows = rows;
        this.step = step;
        this.totals = step.calls().stream().map(Totals::new).toList();
        this.warnings = warnings;
    }

    @Override
    public @Nullable FlowRow next() {
        FlowRow row = rows.next();
        if (row == null) {
            judge();
        } else if (row.isAlive()) {
            try {
                totals.forEach(total -> total.add(0, row.slots()));
            } catch (ValueProblem problem) {
                throw new CannotGoOn(problem.inField("whole-load"));
            }
        }
        return row;
    }

    private void judge() {
        if (judged) {
            return;
        }
        judged = true;
        Object[] results = totals.stream().map(total -> total.result(0)).toArray();
        Object truth;
        try {
            truth = step.formula().evaluator().evaluate(results);
        } catch (ValueProblem problem) {
            throw new CannotGoOn(problem.inField("whole-load"));
        }
        if (!Boolean.FALSE.equals(truth)) {
            return;
        }
        String found = totals.stream()
                .map(total -> String.valueOf(Values.text(total.result(0))))
                .collect(Collectors.joining(", "));
        String sentence = step.message() + (step.message().endsWith(".") ? " Found: " : ". Found: ") + found + ".";
        if (step.warning()) {
            warnings.accept(Problem.of(ProblemCode.WHOLE_LOAD_WARNED, sentence, ""));
        } else {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.WHOLE_LOAD_FAILED,
                    sentence,
                    "Nothing was written. Correct the source and start again."));
        }
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

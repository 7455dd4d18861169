package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.formula.Evaluator;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.RowRanges;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Steps that look at one row alone, and lookups, which ask once for many rows: rows go through in blocks where there is
 * a lookup, one by one otherwise. A row with a problem goes on, so that all of its problems are found at once.
 */
final class RowSteps implements RowFlow {
    /** The reason of rows that a where step leaves out. */
    static final String FILTERED = "filtered";

    /** The reason of rows that a run isn't about. */
    static final String NOT_CHOSEN = "not chosen";

    private static final int BLOCK = 1_000;

    private final RowFlow rows;
    private final PlannedStep[] steps;
    private final SlotNames names;
    private final LookupCache lookups;
    private final int level;
    private final int block;
    /** Whether the key of a row is asked for that is left out. */
    private final boolean keysOfSkipped;

    /** The rows that the run is about; null for all. */
    private final @Nullable RowRanges chosen;

    private final Deque<FlowRow> ready = new ArrayDeque<>();

    RowSteps(RowFlow rows, int level, List<PlannedStep> steps, Plan plan, LookupCache lookups) {
        this.rows = rows;
        this.level = level;
        this.steps = steps.toArray(PlannedStep[]::new);
        this.names = new SlotNames(plan);
        this.lookups = lookups;
        this.chosen = steps.stream()
                .filter(PlannedStep.Chosen.class::isInstance)
                .findFirst()
                .flatMap(step -> ((PlannedStep.Chosen) step).rows())
                .orElse(null);
        this.keysOfSkipped = !plan.replacing().isEmpty();
        this.block = steps.stream().anyMatch(PlannedStep.Lookup.class::isInstance) ? BLOCK : 1;
    }

    @Override
    public @Nullable FlowRow next() {
        if (block == 1) {
            FlowRow row = nextChosen();
            if (row != null && goesOn(row)) {
                runAlone(row);
            }
            return row;
        }
        if (ready.isEmpty()) {
            fill();
        }
        return ready.poll();
    }

    /** The next row; one that the run isn't about is skipped, even where it can't be read. */
    private @Nullable FlowRow nextChosen() {
        FlowRow row = rows.next();
        if (row != null && chosen != null && !chosen.test(row.source().number())) {
            row.skip(-1, NOT_CHOSEN);
        }
        return row;
    }

    private void fill() {
        List<FlowRow> together = new ArrayList<>(block);
        for (FlowRow row = nextChosen(); row != null; row = together.size() < block ? nextChosen() : null) {
            together.add(row);
        }
        for (PlannedStep step : steps) {
            List<FlowRow> goingOn = together.stream().filter(this::goesOn).toList();
            if (step instanceof PlannedStep.Lookup lookup) {
                lookups.run(lookup, goingOn);
            } else {
                goingOn.forEach(row -> run(row, step));
                together.forEach(row -> runOnSkipped(row, step));
            }
        }
        ready.addAll(together);
    }

    /** What the reader could not make out, and what an earlier step kept back, has no values to go on with. */
    private boolean goesOn(FlowRow row) {
        return row.skipped() == null && row.source().problems().isEmpty() && row.reached(level);
    }

    private void runAlone(FlowRow row) {
        for (PlannedStep step : steps) {
            if (row.skipped() == null) {
                run(row, step);
            } else if (keysOfSkipped) {
                runOnSkipped(row, step);
            } else {
                return;
            }
        }
    }

    /** What a key may be computed from is made of rows that are left out too, for no record of theirs may be removed. */
    private void runOnSkipped(FlowRow row, PlannedStep step) {
        if (keysOfSkipped && row.skipped() != null && step instanceof PlannedStep.Assign assign) {
            try {
                row.slots()[assign.slot()] = assign.formula().evaluator().evaluate(row.slots());
            } catch (BrokenInput | ValueProblem e) {
                row.slots()[assign.slot()] = BrokenInput.VALUE;
            }
        }
    }

    private void run(FlowRow row, PlannedStep step) {
        switch (step) {
            case PlannedStep.Chosen chosen ->
                chosen.where().ifPresent(where -> filter(row, chosen.index(), where, NOT_CHOSEN));
            case PlannedStep.Where where -> filter(row, where.index(), where.formula(), FILTERED);
            case PlannedStep.Assign assign ->
                row.slots()[assign.slot()] =
                        evaluate(row, assign.index(), assign.formula().evaluator(), assign.field());
            case PlannedStep.Rule rule -> rule(row, rule);
            default -> throw new IllegalStateException(step + " does not look at one row alone");
        }
    }

    private static void filter(FlowRow row, int step, Formula formula, String otherwise) {
        Object truth = evaluate(row, step, formula.evaluator(), "where");
        if (truth != BrokenInput.VALUE && !Boolean.TRUE.equals(truth)) {
            row.skip(step, otherwise);
        }
    }

    private void rule(FlowRow row, PlannedStep.Rule rule) {
        if (!Boolean.FALSE.equals(evaluate(row, rule.index(), rule.formula().evaluator(), "rule"))) {
            return;
        }
        List<Integer> slots = rule.formula().slots();
        ProblemCode code = rule.warning() ? ProblemCode.RULE_WARNED : ProblemCode.RULE_FAILED;
        Object value = slots.isEmpty() ? null : row.slots()[slots.getFirst()];
        Problem problem = slots.size() == 1
                ? aboutField(code, names.of(slots.getFirst()), Values.text(value), sentence(rule.message()))
                : Problem.of(code, sentence(rule.message()), "");
        Problem placed = slots.size() == 1 ? names.placed(problem, row, slots.getFirst()) : problem;
        if (rule.warning()) {
            row.warnings().add(placed);
        } else {
            row.reject(rule.index(), placed);
        }
    }

    private static Problem aboutField(ProblemCode code, String field, @Nullable String value, String sentence) {
        return value == null
                ? Problem.inField(code, field, sentence, "")
                : Problem.inField(code, field, value, sentence, "");
    }

    private static String sentence(String message) {
        return message.endsWith(".") ? message : message + ".";
    }

    private static @Nullable Object evaluate(FlowRow row, int step, Evaluator evaluator, String field) {
        try {
            return evaluator.evaluate(row.slots());
        } catch (BrokenInput e) {
            return BrokenInput.VALUE;
        } catch (ValueProblem problem) {
            row.reject(step, problem.inField(field));
            return BrokenInput.VALUE;
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

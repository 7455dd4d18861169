package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.job.ControlTotals;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.ValueProblem;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;

/** Checks what a job adds up. */
final class TotalsPlanner {
    private final RowScope rows;
    private final RowScope parameters;
    private final List<Problem> problems;

    /** @param rows what the first step sees */
    TotalsPlanner(RowScope rows, List<Problem> problems) {
        this.rows = rows;
        this.parameters = RowScope.of(List.of(), List.of(), rows.surroundings());
        this.problems = problems;
    }

    /**
     * The figures that have no error.
     *
     * @param at the record type of the main write in the job
     */
    List<PlannedTotal> plan(ControlTotals totals, PlannedWrite main, Placed<String> at) {
        boolean compares = totals.records()
                || totals.sums().stream().anyMatch(sum -> sum.target().isPresent());
        if (compares && (main.issue().isPresent() || main.deletes())) {
            problems.add(Problem.at(
                    at.place(),
                    ProblemCode.MAP_UNFIT,
                    main.deletes()
                            ? "The write removes records, so there are none whose figures could be compared."
                            : "What is issued can't be read back, so totals can't be compared with it.",
                    "Leave target and records out under totals."));
            return List.of();
        }
        List<PlannedTotal> planned = new ArrayList<>();
        for (ControlTotals.Sum sum : totals.sums()) {
            Optional<BigDecimal> expected = sum.expected().flatMap(this::expected);
            OptionalInt target = sum.target().map(field -> field(field, main)).orElse(OptionalInt.empty());
            rows.check(sum.of(), Kind.DECIMAL, problems)
                    .map(of -> new PlannedTotal(sum.name().value(), of, expected, target))
                    .ifPresent(planned::add);
        }
        return planned;
    }

    /** The figure that a run was given; empty where a parameter has no value, as in a check. */
    private Optional<BigDecimal> expected(FormulaSource source) {
        return parameters.check(source, Kind.DECIMAL, problems).flatMap(TotalsPlanner::evaluated);
    }

    private static Optional<BigDecimal> evaluated(Formula formula) {
        try {
            return Optional.ofNullable(number(formula.evaluator().evaluate(new Object[Plan.FACTS])));
        } catch (ValueProblem | BrokenInput e) {
            return Optional.empty();
        }
    }

    private static @Nullable BigDecimal number(@Nullable Object value) {
        return value == null ? null : new BigDecimal(value.toString());
    }

    private OptionalInt field(Placed<String> field, PlannedWrite main) {
        List<String> names = main.use().fields();
        int place = names.indexOf(field.value());
        if (place < 0) {
            problems.add(Problem.at(
                    field.place(),
                    ProblemCode.FIELD_UNKNOWN,
                    "The write maps no field " + field.value() + ".",
                    NearestNames.suggestion(field.value(), names, "Map it, or leave target out.")));
            return OptionalInt.empty();
        }
        if (!main.fields().get(place).description().kind().isNumber()) {
            problems.add(Problem.at(
                    field.place(),
                    ProblemCode.VALUE_WRONG_KIND,
                    "The field " + field.value() + " of the target holds no numbers.",
                    "Name a field that does."));
            return OptionalInt.empty();
        }
        return OptionalInt.of(place);
    }
}

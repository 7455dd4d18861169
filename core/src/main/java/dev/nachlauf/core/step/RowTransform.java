package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.formula.Evaluator;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Plan.Input;
import dev.nachlauf.core.plan.Plan.Output;
import dev.nachlauf.core.plan.Plan.PlannedStep;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Source rows to target rows: read the cells, run the steps, map, check. One per thread. */
public final class RowTransform {
    /** The reason of rows that a where step leaves out. */
    public static final String FILTERED = "filtered";

    private static final @Nullable Object[] NOTHING = {};

    private final Plan plan;
    private final Input[] inputs;
    private final PlannedStep[] steps;
    private final Output[] outputs;
    private final @Nullable TextParser[] fromText;
    private final int[] key;
    private final @Nullable Object[] slots;

    public RowTransform(Plan plan) {
        this.plan = plan;
        this.inputs = plan.inputs().toArray(Input[]::new);
        this.steps = plan.steps().toArray(PlannedStep[]::new);
        this.outputs = plan.fields().toArray(Output[]::new);
        this.fromText = new TextParser[outputs.length];
        for (int i = 0; i < outputs.length; i++) {
            fromText[i] = outputs[i].fromText()
                    ? TextParser.of(outputs[i].description().kind(), null, null)
                    : null;
        }
        this.key = plan.key().stream().mapToInt(Integer::intValue).toArray();
        this.slots = new Object[plan.slots()];
    }

    /** What becomes of a row before it meets the target. */
    public TargetRow apply(SourceRow row) {
        if (!row.problems().isEmpty()) {
            return new TargetRow(row, null, NOTHING, null, row.problems());
        }
        List<Problem> problems = new ArrayList<>(0);
        read(row, problems);
        for (PlannedStep step : steps) {
            if (!run(row, step, problems)) {
                return new TargetRow(row, FILTERED, NOTHING, null, List.of());
            }
        }
        @Nullable Object[] values = map(row, problems);
        return new TargetRow(row, null, values, key(values, problems), problems);
    }

    private void read(SourceRow row, List<Problem> problems) {
        if (plan.needsFacts()) {
            int fact = plan.facts();
            slots[fact] = row.origin().file();
            slots[fact + 1] =
                    row.origin().sheet().isEmpty() ? null : row.origin().sheet();
            slots[fact + 2] = row.origin().line();
        }
        for (Input input : inputs) {
            Object cell = row.cells()[input.column()];
            Object value = null;
            if (cell != null) {
                try {
                    value = Reading.read(cell, input.kind(), input.parser());
                } catch (ValueProblem problem) {
                    problems.add(broken(problem, input, cell).withCell(at(row, input)));
                    value = BrokenInput.VALUE;
                }
            }
            slots[input.slot()] = value;
        }
    }

    private static Problem broken(ValueProblem problem, Input input, Object cell) {
        String shown = Values.shortened(String.valueOf(Values.text(cell)));
        return Problem.inField(problem.code(), input.name(), shown, problem.sentence(), "");
    }

    private String at(SourceRow row, Input input) {
        return row.origin().text(plan.columns().get(input.column()).field());
    }

    /** The cell behind a value that was taken from the source as it is; null where there is none. */
    private @Nullable String cellOf(SourceRow row, Formula formula) {
        if (formula.slots().size() != 1) {
            return null;
        }
        for (Input input : inputs) {
            if (input.slot() == formula.slots().getFirst()) {
                return at(row, input);
            }
        }
        return null;
    }

    /** False where the row is skipped. */
    private boolean run(SourceRow row, PlannedStep step, List<Problem> problems) {
        switch (step) {
            case PlannedStep.Where where -> {
                Object truth = evaluate(where.formula().evaluator(), "where", problems);
                return truth == BrokenInput.VALUE || Boolean.TRUE.equals(truth);
            }
            case PlannedStep.Assign assign ->
                slots[assign.slot()] = evaluate(assign.formula().evaluator(), assign.field(), problems);
            case PlannedStep.Rule rule -> {
                if (Boolean.FALSE.equals(evaluate(rule.formula().evaluator(), "rule", problems))) {
                    problems.add(ruleFailed(row, rule));
                }
            }
        }
        return true;
    }

    /** A rule over one field is shown with that field and its value. */
    private Problem ruleFailed(SourceRow row, PlannedStep.Rule rule) {
        String message = rule.message().endsWith(".") ? rule.message() : rule.message() + ".";
        String remedy = "The rule is: " + rule.formula().source().text();
        if (rule.formula().slots().size() == 1) {
            int slot = rule.formula().slots().getFirst();
            Object value = slots[slot];
            Problem problem = Problem.inField(
                    ProblemCode.RULE_FAILED, slotName(slot), String.valueOf(Values.text(value)), message, remedy);
            String cell = cellOf(row, rule.formula());
            return cell == null ? problem : problem.withCell(cell);
        }
        return Problem.of(ProblemCode.RULE_FAILED, message, remedy);
    }

    private String slotName(int slot) {
        for (PlannedStep step : steps) {
            if (step instanceof PlannedStep.Assign assign && assign.slot() == slot) {
                return assign.field();
            }
        }
        for (Input input : inputs) {
            if (input.slot() == slot) {
                return input.name();
            }
        }
        return slot == plan.facts() ? "source.file" : slot == plan.facts() + 1 ? "source.sheet" : "source.row";
    }

    private @Nullable Object evaluate(Evaluator evaluator, String field, List<Problem> problems) {
        try {
            return evaluator.evaluate(slots);
        } catch (BrokenInput e) {
            return BrokenInput.VALUE;
        } catch (ValueProblem problem) {
            problems.add(Problem.inField(problem.code(), field, problem.sentence(), ""));
            return BrokenInput.VALUE;
        }
    }

    private @Nullable Object[] map(SourceRow row, List<Problem> problems) {
        @Nullable Object[] values = new Object[outputs.length];
        for (int i = 0; i < outputs.length; i++) {
            Output output = outputs[i];
            int before = problems.size();
            Object value =
                    evaluate(output.formula().evaluator(), output.description().name(), problems);
            if (value != BrokenInput.VALUE) {
                value = convert(i, output, value, problems);
                FieldCheck.check(output.description(), value, problems);
            }
            values[i] = value;
            if (problems.size() > before) {
                place(problems, before, cellOf(row, output.formula()));
            }
        }
        return values;
    }

    private static void place(List<Problem> problems, int from, @Nullable String cell) {
        for (int i = from; cell != null && i < problems.size(); i++) {
            problems.set(i, problems.get(i).withCell(cell));
        }
    }

    /** A mapped empty text counts as blank, and clears the field as null does. */
    private @Nullable Object convert(int index, Output output, @Nullable Object value, List<Problem> problems) {
        if (value instanceof String text) {
            TextParser parser = fromText[index];
            if (text.isEmpty()) {
                return null;
            }
            if (parser != null) {
                try {
                    return parser.parse(text);
                } catch (ValueProblem problem) {
                    problems.add(
                            Problem.inField(problem.code(), output.description().name(), text, problem.sentence(), ""));
                    return BrokenInput.VALUE;
                }
            }
        }
        return output.description().kind() == Kind.DECIMAL && value != null
                ? padded(Values.decimal(value), output.description())
                : value;
    }

    /** With as many decimals as the target shows, so that old and new values are written alike. */
    private static BigDecimal padded(BigDecimal number, FieldDescription field) {
        return field.scale().isPresent() && number.scale() < field.scale().getAsInt()
                ? number.setScale(field.scale().getAsInt())
                : number;
    }

    private Object @Nullable [] key(@Nullable Object[] values, List<Problem> problems) {
        Object[] parts = new Object[key.length];
        boolean whole = true;
        for (int i = 0; i < key.length; i++) {
            Object part = values[key[i]];
            if (part == null) {
                String field = outputs[key[i]].description().name();
                problems.removeIf(problem -> problem.code() == ProblemCode.REQUIRED_EMPTY
                        && problem.place() instanceof Place.InField place
                        && place.field().equals(field));
                problems.add(Problem.inField(
                        ProblemCode.KEY_EMPTY,
                        field,
                        "The key is empty, so the record can't be found.",
                        "Fill in " + field + " in the source."));
                whole = false;
            } else {
                whole &= part != BrokenInput.VALUE;
                parts[i] = part;
            }
        }
        return whole ? parts : null;
    }
}

package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.formula.Evaluator;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Rows behind the last step to target rows: decide which writes take them, map, check. One per thread. */
public final class Mapper {
    /** Stands where a value is found when the row is written. */
    public static final Object LATER = new Object() {
        @Override
        public String toString() {
            return "(found when written)";
        }
    };

    private final Plan plan;
    private final SlotNames names;
    private final @Nullable TextParser[][] fromText;
    private final @Nullable ScopeCheck[] scopes;
    /** How many steps change the number of rows. */
    private final int level;

    public Mapper(Plan plan) {
        this.plan = plan;
        this.names = new SlotNames(plan);
        this.level = Math.toIntExact(
                plan.steps().stream().filter(PlannedStep::changesRows).count());
        this.fromText = new TextParser[plan.writes().size()][];
        this.scopes = plan.writes().stream().map(ScopeCheck::of).toArray(ScopeCheck[]::new);
        for (int w = 0; w < fromText.length; w++) {
            List<Output> fields = plan.writes().get(w).fields();
            fromText[w] = new TextParser[fields.size()];
            for (int f = 0; f < fields.size(); f++) {
                Kind kind = fields.get(f).description().kind();
                fromText[w][f] = fields.get(f).fromText() ? TextParser.of(kind, null, null) : null;
            }
        }
    }

    /** What goes to the writes that need no result of another one. */
    public TargetRow map(FlowRow row) {
        int writes = plan.writes().size();
        @Nullable WriteRow[] mapped = new WriteRow[writes];
        if (row.skipped() != null) {
            return new TargetRow(row, mapped, List.of(), row.skipped());
        }
        if (!row.source().problems().isEmpty() || !row.reached(level)) {
            return new TargetRow(row, mapped, row.problems(), null);
        }
        List<Problem> problems = row.problems().isEmpty() ? new ArrayList<>(0) : new ArrayList<>(row.problems());
        boolean taken = false;
        for (int w = 0; w < writes; w++) {
            PlannedWrite write = plan.writes().get(w);
            if (write.late()) {
                taken = true;
            } else if (leads(row, write) && Turns.has(plan, w, row) && takes(row, write, Set.of(), problems)) {
                mapped[w] = write(row, w, Set.of(), problems);
                taken = true;
            } else {
                taken |= write.oncePerGroup() && !leads(row, write);
            }
        }
        boolean skipped = !taken && problems.isEmpty();
        return new TargetRow(row, mapped, problems, skipped ? TargetRow.NOT_TAKEN : null);
    }

    private static boolean leads(FlowRow row, PlannedWrite write) {
        return !write.oncePerGroup() || row.leads();
    }

    /** What goes to a write that uses results of an earlier one; null where it doesn't take the row. */
    public @Nullable WriteRow mapLate(FlowRow row, int index, List<Problem> problems) {
        return mapLate(row, index, Set.of(), problems);
    }

    /**
     * What goes to a write that uses results of an earlier one, as far as they are known.
     *
     * @param unknown slots whose values only a target gives; what uses them is {@link #LATER}
     */
    public @Nullable WriteRow mapLate(FlowRow row, int index, Set<Integer> unknown, List<Problem> problems) {
        PlannedWrite write = plan.writes().get(index);
        return leads(row, write) && Turns.has(plan, index, row) && takes(row, write, unknown, problems)
                ? write(row, index, unknown, problems)
                : null;
    }

    private static boolean uses(Formula formula, Set<Integer> unknown) {
        return !unknown.isEmpty() && formula.slots().stream().anyMatch(unknown::contains);
    }

    private boolean takes(FlowRow row, PlannedWrite write, Set<Integer> unknown, List<Problem> problems) {
        if (write.when().isEmpty() || uses(write.when().get(), unknown)) {
            return true;
        }
        Object truth = evaluate(row, write.when().get().evaluator(), "when", problems);
        // a broken condition is a problem of the row: it goes on to the other maps so that all are found
        return truth == BrokenInput.VALUE || Boolean.TRUE.equals(truth);
    }

    private static @Nullable Object evaluate(FlowRow row, Evaluator evaluator, String field, List<Problem> problems) {
        try {
            return evaluator.evaluate(row.slots());
        } catch (BrokenInput e) {
            return BrokenInput.VALUE;
        } catch (ValueProblem problem) {
            problems.add(problem.inField(field));
            return BrokenInput.VALUE;
        }
    }

    private WriteRow write(FlowRow row, int index, Set<Integer> unknown, List<Problem> problems) {
        PlannedWrite write = plan.writes().get(index);
        List<Output> outputs = write.fields();
        @Nullable Object[] values = new Object[outputs.size()];
        for (int i = 0; i < values.length; i++) {
            values[i] = value(row, outputs.get(i), fromText[index][i], unknown, problems);
        }
        ScopeCheck scope = scopes[index];
        if (scope != null) {
            scope.check(values, problems);
        }
        return new WriteRow(row.position(), row.group(), row.source().number(), values, key(write, values, problems));
    }

    private @Nullable Object value(
            FlowRow row, Output output, @Nullable TextParser parser, Set<Integer> unknown, List<Problem> problems) {
        if (output.source() instanceof Source.Kept) {
            return null;
        }
        if (!(output.source() instanceof Source.Of of) || uses(of.formula(), unknown)) {
            return LATER;
        }
        int before = problems.size();
        Object value =
                evaluate(row, of.formula().evaluator(), output.description().name(), problems);
        if (value != BrokenInput.VALUE) {
            value = convert(output, value, parser, problems);
            if (value != null || !output.leaveBlank()) {
                FieldCheck.check(output.description(), value, problems);
            }
        }
        if (problems.size() > before && of.formula().slots().size() == 1) {
            for (int i = before; i < problems.size(); i++) {
                problems.set(
                        i,
                        names.placed(problems.get(i), row, of.formula().slots().getFirst()));
            }
        }
        return value;
    }

    /** A mapped empty text counts as blank, and clears the field as null does. */
    private static @Nullable Object convert(
            Output output, @Nullable Object value, @Nullable TextParser parser, List<Problem> problems) {
        if (value instanceof String text) {
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
        return output.description().kind() == Kind.DECIMAL && value != null && value != BrokenInput.VALUE
                ? padded(Values.decimal(value), output.description())
                : value;
    }

    /** With as many decimals as the target shows, so that old and new values are written alike; no digit is lost. */
    private static BigDecimal padded(BigDecimal number, FieldDescription field) {
        if (field.scale().isEmpty() || number.scale() == field.scale().getAsInt()) {
            return number;
        }
        int scale = field.scale().getAsInt();
        boolean fits = number.scale() < scale || number.stripTrailingZeros().scale() <= scale;
        return fits ? number.setScale(scale) : number;
    }

    private static Object @Nullable [] key(PlannedWrite write, @Nullable Object[] values, List<Problem> problems) {
        List<Integer> fields = write.key();
        Object[] parts = new Object[fields.size()];
        boolean whole = true;
        for (int i = 0; i < parts.length; i++) {
            Object part = values[fields.get(i)];
            if (part == null) {
                String field = write.fields().get(fields.get(i)).description().name();
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
                whole &= part != BrokenInput.VALUE && part != LATER;
                parts[i] = part;
            }
        }
        return whole ? parts : null;
    }

    /** Puts what was found into a row's values and completes its key. */
    public static WriteRow resolved(
            PlannedWrite write, WriteRow row, @Nullable Object[] values, List<Problem> problems) {
        for (int i = 0; i < values.length; i++) {
            if (write.fields().get(i).source() instanceof Source.Found && values[i] != BrokenInput.VALUE) {
                Output output = write.fields().get(i);
                if (values[i] != null || !output.leaveBlank()) {
                    FieldCheck.check(output.description(), values[i], problems);
                }
            }
        }
        return new WriteRow(row.number(), row.group(), row.row(), values, key(write, values, problems));
    }
}

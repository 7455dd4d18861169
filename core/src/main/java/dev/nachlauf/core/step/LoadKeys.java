package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.record.KeyBytes;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The keys of rows as bytes that are equal exactly for equal keys, so that one that stands twice is found before anything
 * is written. A part that is found in another record, or is a result of an earlier write, is represented by the key by
 * which that record is found.
 */
public final class LoadKeys {
    private final Plan plan;

    public LoadKeys(Plan plan) {
        this.plan = plan;
    }

    /** The key of a row for a write; null where the write doesn't take it, or a part is missing. */
    public byte @Nullable [] key(FlowRow row, int index) {
        PlannedWrite write = plan.writes().get(index);
        List<Object> parts = new ArrayList<>();
        return isTaken(row, index) && add(row, write, parts) ? KeyBytes.of(parts) : null;
    }

    private boolean isTaken(FlowRow row, int index) {
        PlannedWrite write = plan.writes().get(index);
        return row.skipped() == null
                && row.source().problems().isEmpty()
                && (!write.oncePerGroup() || row.group() == row.position())
                && Turns.has(plan, index, row)
                && isTrue(row, write);
    }

    /**
     * The parts of a row's key for a write, one for each of its fields; null where the write doesn't take it or a part is
     * missing. To be asked for {@link #isPlain plain} keys only.
     */
    public Object @Nullable [] values(FlowRow row, int index) {
        List<Object> parts = new ArrayList<>();
        return isTaken(row, index) && add(row, plan.writes().get(index), parts) ? parts.toArray() : null;
    }

    /** A part of a row's key, whether or not the write takes the row; null where it can't be computed from the row. */
    public static @Nullable Object part(FlowRow row, Output output) {
        List<Object> parts = new ArrayList<>();
        return output.source() instanceof Source.Of of && add(row, output, of.formula(), parts)
                ? parts.getFirst()
                : null;
    }

    /** Whether all parts of a write's key are computed from the row alone. */
    public boolean isPlain(int index) {
        PlannedWrite write = plan.writes().get(index);
        return write.key().stream()
                .map(field -> write.fields().get(field).source())
                .allMatch(source -> source instanceof Source.Of of
                        && plan.writes().stream()
                                .flatMap(earlier -> earlier.results().stream())
                                .noneMatch(result -> of.formula().slots().contains(result.slot())));
    }

    /**
     * Whether no key of a write can stand twice: rows were combined by its fields, and nothing was done to these since. It
     * says nothing of keys that differ, but are equal to the target. Rows of a file may have no key at all.
     */
    public boolean isDistinct(int index) {
        if (plan.writes().get(index).key().isEmpty()) {
            return true;
        }
        PlannedStep.Combine combined = null;
        for (PlannedStep step : plan.steps()) {
            if (step instanceof PlannedStep.Combine combine) {
                combined = combine;
            } else if (step.changesRows()
                    || step instanceof PlannedStep.Assign assign
                            && combined != null
                            && combined.into().contains(assign.slot())) {
                combined = null;
            }
        }
        PlannedWrite write = plan.writes().get(index);
        Set<Integer> slots = new HashSet<>();
        for (int field : write.key()) {
            Output output = write.fields().get(field);
            if (output.source() instanceof Source.Of of && of.formula().isField() && !output.fromText()) {
                slots.addAll(of.formula().slots());
            }
        }
        return combined != null && slots.containsAll(combined.into());
    }

    private static boolean isTrue(FlowRow row, PlannedWrite write) {
        if (write.when().isEmpty() || write.late()) {
            return true;
        }
        try {
            return Boolean.TRUE.equals(write.when().get().evaluator().evaluate(row.slots()));
        } catch (BrokenInput | ValueProblem e) {
            return false;
        }
    }

    private boolean add(FlowRow row, PlannedWrite write, List<Object> parts) {
        for (int field : write.key()) {
            Output output = write.fields().get(field);
            boolean whole = switch (output.source()) {
                case Source.Of of -> addResult(row, of.formula(), parts) || add(row, output, of.formula(), parts);
                case Source.Kept ignored -> false;
                case Source.Found found -> {
                    List<Object> key = LookupCache.key(found.finding(), row, new ArrayList<>(0));
                    yield key != null && parts.addAll(key);
                }
            };
            if (!whole) {
                return false;
            }
        }
        return true;
    }

    /** A result of an earlier write stands for that write's key. */
    private boolean addResult(FlowRow row, Formula formula, List<Object> parts) {
        if (formula.slots().size() != 1) {
            return false;
        }
        for (PlannedWrite earlier : plan.writes()) {
            boolean of = earlier.results().stream()
                    .anyMatch(result -> result.slot() == formula.slots().getFirst());
            if (of) {
                return earlier.oncePerGroup() ? parts.add(row.group()) : add(row, earlier, parts);
            }
        }
        return false;
    }

    private static boolean add(FlowRow row, Output output, Formula formula, List<Object> parts) {
        try {
            Object value = formula.evaluator().evaluate(row.slots());
            if (output.fromText() && value instanceof String text && !text.isEmpty()) {
                value = TextParser.of(output.description().kind(), null, null).parse(text);
            }
            return value != null && !"".equals(value) && parts.add(value);
        } catch (BrokenInput | ValueProblem e) {
            return false;
        }
    }

    /** The part of a plan of plain steps that keys need: the filters, and what filters and keys are computed from. */
    public static Plan reduced(Plan plan) {
        Set<Integer> needed = new HashSet<>();
        for (PlannedWrite write : plan.writes()) {
            write.when().ifPresent(formula -> needed.addAll(formula.slots()));
            write.key()
                    .forEach(field ->
                            needed.addAll(write.fields().get(field).source().slots()));
        }
        List<PlannedStep> steps = new ArrayList<>();
        List<PlannedStep> backwards = new ArrayList<>(plan.steps());
        Collections.reverse(backwards);
        for (PlannedStep step : backwards) {
            boolean keep = step instanceof PlannedStep.Chosen
                    || step instanceof PlannedStep.Where
                    || step instanceof PlannedStep.Assign assign && needed.contains(assign.slot());
            if (keep) {
                steps.addFirst(step);
                needed.addAll(Planner.slots(step));
            }
        }
        List<Plan.Input> inputs = plan.inputs().stream()
                .filter(input -> needed.contains(input.slot()))
                .toList();
        return new Plan(
                plan.job(),
                plan.columns(),
                plan.slots(),
                plan.facts(),
                plan.needsFacts(),
                inputs,
                steps,
                plan.writes(),
                List.of());
    }
}

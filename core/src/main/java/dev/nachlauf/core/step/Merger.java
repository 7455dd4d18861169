package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.plan.PlannedStep.Made;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.value.ValueProblem;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** Makes one row of many that agree in some fields. It is given them one after the other, in the order of the source. */
abstract sealed class Merger {
    private static final long[] NOTHING = {};

    private final int step;
    private @Nullable FlowRow first;
    private byte @Nullable [] packed;
    private long[] stands = NOTHING;
    private @Nullable Set<Problem> warnings;
    private @Nullable Problem problem;

    private Merger(int step) {
        this.step = step;
    }

    /** One merger after the other for the groups of a step. */
    static Supplier<Merger> of(PlannedStep.Combine step, int facts) {
        return () -> new Combining(step, facts);
    }

    /** One merger after the other for the groups of a step that keeps sums. */
    static Supplier<Merger> of(PlannedStep.Duplicates step) {
        return () -> new Summing(step);
    }

    /** Adds a row, which is not rejected. */
    final void add(FlowRow row) {
        if (stands.length == 0) {
            first = row;
            stands = row.stands().clone();
        } else {
            for (int level = 0; level < stands.length; level++) {
                stands[level] += row.stands()[level];
            }
        }
        for (Problem warning : row.warnings()) {
            warn(warning);
        }
        if (problem == null) {
            problem = take(row);
        }
    }

    /** What was said of a member is said of the row that it becomes part of, each thing once. */
    private void warn(Problem warning) {
        if (warnings == null) {
            warnings = new LinkedHashSet<>();
        }
        if (warnings.size() < Treatments.MOST_WARNINGS) {
            warnings.add(warning);
        }
    }

    /** Keeps the first row as bytes, which take a quarter of the memory; the result is how many there are. */
    final int pack() {
        if (first != null) {
            packed = FlowCodec.encode(first);
            first = null;
        }
        return packed == null ? 0 : packed.length;
    }

    /** The row that all become; it stands where the first one stood. */
    final FlowRow made() {
        FlowRow leader = packed == null ? Objects.requireNonNull(first, "a group has a row") : FlowCodec.decode(packed);
        @Nullable Object[] slots = slots(leader);
        FlowRow made = FlowRow.made(leader.position(), leader.source(), slots, stands);
        if (warnings != null) {
            made.warnings().addAll(warnings);
        }
        Problem found = problem == null ? fill(slots) : problem;
        if (found != null) {
            broken(slots);
            made.reject(step, found);
        }
        return made;
    }

    /** Takes the values of a row; the result is what is wrong with them. */
    abstract @Nullable Problem take(FlowRow row);

    /** Slots with what the first row gives to all. */
    abstract @Nullable Object[] slots(FlowRow leader);

    /** Fills in what is made of all rows; the result is what is wrong with it. */
    abstract @Nullable Problem fill(@Nullable Object[] slots);

    /** Nothing below may take what could not be made for empty. */
    abstract void broken(@Nullable Object[] slots);

    private static final class Combining extends Merger {
        private final PlannedStep.Combine step;
        private final int facts;
        private final Accumulator[][] totals;

        Combining(PlannedStep.Combine step, int facts) {
            super(step.index());
            this.step = step;
            this.facts = facts;
            this.totals = step.made().stream()
                    .map(made -> Accumulator.of(made.calls()).toArray(Accumulator[]::new))
                    .toArray(Accumulator[][]::new);
        }

        @Override
        @Nullable
        Problem take(FlowRow row) {
            for (int i = 0; i < totals.length; i++) {
                try {
                    for (Accumulator total : totals[i]) {
                        total.add(row.slots());
                    }
                } catch (ValueProblem e) {
                    return e.inField(step.made().get(i).field());
                }
            }
            return null;
        }

        @Override
        @Nullable
        Object[] slots(FlowRow leader) {
            return common(leader, facts, step.by(), step.into());
        }

        @Override
        @Nullable
        Problem fill(@Nullable Object[] slots) {
            for (int i = 0; i < totals.length; i++) {
                Made made = step.made().get(i);
                List<@Nullable Object> seen = new ArrayList<>();
                step.into().forEach(slot -> seen.add(slots[slot]));
                Arrays.stream(totals[i]).forEach(total -> seen.add(total.result()));
                try {
                    slots[made.slot()] = made.formula().evaluator().evaluate(seen.toArray());
                } catch (ValueProblem e) {
                    return e.inField(made.field());
                }
            }
            return null;
        }

        @Override
        void broken(@Nullable Object[] slots) {
            step.made().forEach(field -> slots[field.slot()] = BrokenInput.VALUE);
        }
    }

    /** Fresh slots with the facts of the first row and what all rows agree in. */
    static @Nullable Object[] common(FlowRow first, int facts, List<Integer> by, List<Integer> into) {
        @Nullable Object[] slots = new Object[first.slots().length];
        System.arraycopy(first.slots(), facts, slots, facts, Plan.FACTS);
        for (int i = 0; i < by.size(); i++) {
            slots[into.get(i)] = first.slots()[by.get(i)];
        }
        return slots;
    }

    private static final class Summing extends Merger {
        private final List<Integer> slots;
        private final @Nullable Object[] sums;

        Summing(PlannedStep.Duplicates step) {
            super(step.index());
            this.slots = step.sums();
            this.sums = new Object[slots.size()];
        }

        @Override
        @Nullable
        Problem take(FlowRow row) {
            for (int i = 0; i < sums.length; i++) {
                Object before = sums[i];
                Object more = row.slots()[slots.get(i)];
                try {
                    sums[i] = before == null || more == null
                            ? (before == null ? more : before)
                            : Accumulator.sum(before, more);
                } catch (ValueProblem e) {
                    return e.inField("sum");
                }
            }
            return null;
        }

        @Override
        @Nullable
        Object[] slots(FlowRow leader) {
            return leader.slots().clone();
        }

        @Override
        @Nullable
        Problem fill(@Nullable Object[] made) {
            for (int i = 0; i < sums.length; i++) {
                made[slots.get(i)] = sums[i];
            }
            return null;
        }

        @Override
        void broken(@Nullable Object[] made) {
            slots.forEach(slot -> made[slot] = BrokenInput.VALUE);
        }
    }
}

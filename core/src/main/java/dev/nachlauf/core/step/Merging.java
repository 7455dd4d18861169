package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.Aggregation.Word;
import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.plan.PlannedStep.Made;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.value.ValueProblem;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Makes one row of many that agree in some fields, for many groups at once, which are known by number. Rows come in the
 * order of the source; the first one of a group gives the made row its place.
 */
abstract sealed class Merging {
    private final int step;
    /** For how many rows of each level the groups stand, one group behind the other; 0 where none of a group came yet. */
    private long[] stands = {};

    private int levels;
    private final Map<Integer, List<Amount>> amounts = new HashMap<>();
    private final Map<Integer, Set<Problem>> warnings = new HashMap<>();
    private final Map<Integer, Problem> problems = new HashMap<>();

    private Merging(int step) {
        this.step = step;
    }

    /** What a step that combines rows does, each time for other groups. */
    static Supplier<Merging> of(PlannedStep.Combine step, int facts) {
        return () -> new Combining(step, facts);
    }

    /** What a step that keeps sums of rows does, each time for other groups. */
    static Supplier<Merging> of(PlannedStep.Duplicates step) {
        return () -> new Summing(step);
    }

    /** Adds a row, which is not rejected, to a group. */
    final void add(int group, FlowRow row) {
        stand(group, row.stands());
        if (!row.amounts().isEmpty()) {
            amounts.merge(group, row.amounts(), Amount::plus);
        }
        for (Problem warning : row.warnings()) {
            warn(group, warning);
        }
        if (problems.isEmpty() || !problems.containsKey(group)) {
            Problem problem = take(group, row);
            if (problem != null) {
                problems.put(group, problem);
            }
        }
    }

    /** Rows that no step above has rejected are all of as many levels. */
    private void stand(int group, long[] more) {
        levels = more.length;
        if ((group + 1) * levels > stands.length) {
            stands = Arrays.copyOf(stands, Math.max(16, group * 2) * levels);
        }
        for (int level = 0; level < levels; level++) {
            stands[group * levels + level] += more[level];
        }
    }

    /** What was said of a member is said of the row that it becomes part of, each thing once. */
    private void warn(int group, Problem warning) {
        Set<Problem> said = warnings.computeIfAbsent(group, any -> new LinkedHashSet<>());
        if (said.size() < Treatments.MOST_WARNINGS) {
            said.add(warning);
        }
    }

    /** The row that all of a group become; it stands where the first one stands. */
    final FlowRow made(int group, FlowRow first) {
        @Nullable Object[] slots = slots(first);
        long[] members = Arrays.copyOfRange(stands, group * levels, (group + 1) * levels);
        FlowRow made =
                FlowRow.made(first.position(), first.source(), slots, members, amounts.getOrDefault(group, List.of()));
        made.warnings().addAll(warnings.getOrDefault(group, Set.of()));
        Problem problem = problems.containsKey(group) ? problems.get(group) : fill(group, slots);
        if (problem != null) {
            broken(slots);
            made.reject(step, problem);
        }
        return made;
    }

    /** About how many bytes the groups take. */
    long bytes() {
        return 8L * stands.length + 500L * warnings.size() + 500L * problems.size() + 200L * amounts.size();
    }

    /** Takes the values of a row; the result is what is wrong with them. */
    abstract @Nullable Problem take(int group, FlowRow row);

    /** Slots with what the first row gives to all. */
    abstract @Nullable Object[] slots(FlowRow first);

    /** Fills in what is made of all rows; the result is what is wrong with it. */
    abstract @Nullable Problem fill(int group, @Nullable Object[] slots);

    /** Nothing below may take what could not be made for empty. */
    abstract void broken(@Nullable Object[] slots);

    /** Fresh slots with the facts of the first row and what all rows agree in. */
    static @Nullable Object[] common(FlowRow first, int facts, List<Integer> by, List<Integer> into) {
        @Nullable Object[] slots = new Object[first.slots().length];
        System.arraycopy(first.slots(), facts, slots, facts, Plan.FACTS);
        for (int i = 0; i < by.size(); i++) {
            slots[into.get(i)] = first.slots()[by.get(i)];
        }
        return slots;
    }

    private static final class Combining extends Merging {
        private final PlannedStep.Combine step;
        private final int facts;
        private final Totals[][] totals;

        Combining(PlannedStep.Combine step, int facts) {
            super(step.index());
            this.step = step;
            this.facts = facts;
            this.totals = step.made().stream()
                    .map(made -> made.calls().stream().map(Totals::new).toArray(Totals[]::new))
                    .toArray(Totals[][]::new);
        }

        @Override
        @Nullable
        Problem take(int group, FlowRow row) {
            for (int i = 0; i < totals.length; i++) {
                try {
                    for (Totals total : totals[i]) {
                        total.add(group, row.slots());
                    }
                } catch (ValueProblem e) {
                    return e.inField(step.made().get(i).field());
                }
            }
            return null;
        }

        @Override
        @Nullable
        Object[] slots(FlowRow first) {
            return common(first, facts, step.by(), step.into());
        }

        @Override
        @Nullable
        Problem fill(int group, @Nullable Object[] slots) {
            for (int i = 0; i < totals.length; i++) {
                Made made = step.made().get(i);
                List<@Nullable Object> seen = new ArrayList<>();
                step.into().forEach(slot -> seen.add(slots[slot]));
                Arrays.stream(totals[i]).forEach(total -> seen.add(total.result(group)));
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

        @Override
        long bytes() {
            return super.bytes()
                    + Arrays.stream(totals)
                            .flatMap(Arrays::stream)
                            .mapToLong(Totals::bytes)
                            .sum();
        }
    }

    private static final class Summing extends Merging {
        private final List<Integer> slots;
        private final Totals[] sums;

        Summing(PlannedStep.Duplicates step) {
            super(step.index());
            this.slots = step.sums();
            this.sums = slots.stream()
                    .map(slot -> new Totals(Word.SUM, row -> row[slot]))
                    .toArray(Totals[]::new);
        }

        @Override
        @Nullable
        Problem take(int group, FlowRow row) {
            try {
                for (Totals sum : sums) {
                    sum.add(group, row.slots());
                }
                return null;
            } catch (ValueProblem e) {
                return e.inField("sum");
            }
        }

        @Override
        @Nullable
        Object[] slots(FlowRow first) {
            return first.slots().clone();
        }

        @Override
        @Nullable
        Problem fill(int group, @Nullable Object[] made) {
            for (int i = 0; i < sums.length; i++) {
                made[slots.get(i)] = sums[i].result(group);
            }
            return null;
        }

        @Override
        void broken(@Nullable Object[] made) {
            slots.forEach(slot -> made[slot] = BrokenInput.VALUE);
        }

        @Override
        long bytes() {
            return super.bytes() + Arrays.stream(sums).mapToLong(Totals::bytes).sum();
        }
    }
}

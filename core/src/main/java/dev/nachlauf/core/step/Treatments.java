package dev.nachlauf.core.step;

import static java.util.Objects.requireNonNull;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.step.GroupFlow.Output;
import dev.nachlauf.core.step.GroupFlow.Treatment;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** What the steps do with rows that agree in some fields. */
final class Treatments {
    /** The reason of rows that are left out because an equal one goes on. */
    static final String DUPLICATE = "duplicate";

    /** A group is held in memory while it is written. */
    static final int LARGEST_GROUP = 10_000;
    /** As many characters the rows of a group hold together at most. */
    static final long MOST_CHARACTERS = 16_000_000;
    /** So many different warnings of its members a made row keeps. */
    static final int MOST_WARNINGS = 20;

    private Treatments() {}

    static Treatment of(PlannedStep.Duplicates step) {
        return switch (step.keep()) {
            case FIRST -> (members, out) -> keepFirst(step, members, out);
            case LAST -> (members, out) -> keepLast(step, members, out);
            case NONE -> (members, out) -> keepNone(step, members, out);
            case SUM -> merged(Merging.of(step));
        };
    }

    private static void keepFirst(PlannedStep.Duplicates step, Iterator<FlowRow> members, Output out) {
        out.add(members.next());
        while (members.hasNext()) {
            FlowRow row = members.next();
            row.skip(step.index(), DUPLICATE);
            out.add(row);
        }
    }

    private static void keepLast(PlannedStep.Duplicates step, Iterator<FlowRow> members, Output out) {
        FlowRow last = members.next();
        while (members.hasNext()) {
            last.skip(step.index(), DUPLICATE);
            out.add(last);
            last = members.next();
        }
        out.add(last);
    }

    private static void keepNone(PlannedStep.Duplicates step, Iterator<FlowRow> members, Output out) {
        FlowRow first = members.next();
        if (!members.hasNext()) {
            out.add(first);
            return;
        }
        FlowRow other = members.next();
        first.reject(step.index(), duplicate(step, other));
        out.add(first);
        other.reject(step.index(), duplicate(step, first));
        out.add(other);
        while (members.hasNext()) {
            FlowRow row = members.next();
            row.reject(step.index(), duplicate(step, first));
            out.add(row);
        }
    }

    private static Problem duplicate(PlannedStep.Duplicates step, FlowRow other) {
        return Problem.of(
                ProblemCode.DUPLICATE,
                "The row agrees with row " + other.source().number() + " in " + String.join(" + ", step.names())
                        + ", so neither goes on.",
                "Keep one of the rows in the source, or say which one with keep.");
    }

    private static Treatment merged(Supplier<Merging> merging) {
        return (members, out) -> {
            Merging one = merging.get();
            FlowRow first = members.next();
            one.add(0, first);
            members.forEachRemaining(row -> one.add(0, row));
            out.add(one.made(0, first));
        };
    }

    /** What was said of a member is said of the row that it becomes part of, each thing once. */
    private static void warn(Set<Problem> warnings, FlowRow row) {
        for (Problem warning : row.warnings()) {
            if (warnings.size() < MOST_WARNINGS) {
                warnings.add(warning);
            }
        }
    }

    private static void add(long[] stands, FlowRow row) {
        for (int level = 0; level < stands.length; level++) {
            stands[level] += row.stands()[level];
        }
    }

    static Treatment of(PlannedStep.Combine step, int facts) {
        return merged(Merging.of(step, facts));
    }

    static Treatment of(PlannedStep.LongToWide step, int facts) {
        return new Treatment() {
            @Override
            public void before(FlowRow row) {
                try {
                    Object name = step.name().evaluator().evaluate(row.slots());
                    if (name == null || !step.columns().containsKey(String.valueOf(Values.text(name)))) {
                        row.reject(
                                step.index(),
                                Problem.inField(
                                        ProblemCode.VALUE_NOT_ALLOWED,
                                        "name",
                                        String.valueOf(Values.text(name)),
                                        "No field is made of this name; those that are: "
                                                + String.join(
                                                        ", ", step.columns().keySet()) + ".",
                                        "Add it to fields, or filter the row above."));
                    }
                } catch (ValueProblem e) {
                    row.reject(step.index(), e.inField("name"));
                }
            }

            @Override
            public void group(Iterator<FlowRow> members, Output out) {
                widen(step, facts, members, out);
            }
        };
    }

    private static void widen(PlannedStep.LongToWide step, int facts, Iterator<FlowRow> members, Output out) {
        FlowRow first = members.next();
        @Nullable Object[] slots = Merging.common(first, facts, step.by(), step.into());
        long[] stands = first.stands().clone();
        List<Amount> amounts = first.amounts();
        List<Problem> problems = new ArrayList<>();
        boolean[] filled = new boolean[slots.length];
        Set<Problem> warnings = new LinkedHashSet<>(first.warnings());
        place(step, first, slots, filled, problems);
        while (members.hasNext()) {
            FlowRow row = members.next();
            add(stands, row);
            amounts = Amount.plus(amounts, row.amounts());
            warn(warnings, row);
            place(step, row, slots, filled, problems);
        }
        FlowRow made = FlowRow.made(first.position(), first.source(), slots, stands, amounts);
        made.warnings().addAll(warnings);
        problems.forEach(problem -> made.reject(step.index(), problem));
        out.add(made);
    }

    private static void place(
            PlannedStep.LongToWide step,
            FlowRow row,
            @Nullable Object[] slots,
            boolean[] filled,
            List<Problem> problems) {
        try {
            String name = String.valueOf(Values.text(step.name().evaluator().evaluate(row.slots())));
            int slot = requireNonNull(step.columns().get(name), "names were checked before")
                    .slot();
            if (filled[slot]) {
                problems.add(Problem.inField(
                        ProblemCode.DUPLICATE,
                        "name",
                        name,
                        "The name stands twice in the rows that become one, again in row "
                                + row.source().number() + ".",
                        "Keep one of the rows in the source."));
            }
            filled[slot] = true;
            // stays where the value can't be had, so that no later step takes the field for empty
            slots[slot] = BrokenInput.VALUE;
            slots[slot] = step.value().evaluator().evaluate(row.slots());
        } catch (ValueProblem e) {
            problems.add(e.inField("value"));
        }
    }

    static Treatment of(PlannedStep.Group step) {
        return new Treatment() {
            @Override
            public boolean keepsTogether() {
                return true;
            }

            @Override
            public boolean takesRejected() {
                return step.linesAlone();
            }

            @Override
            public void group(Iterator<FlowRow> members, Output out) {
                together(step, members, out);
            }
        };
    }

    private static void together(PlannedStep.Group step, Iterator<FlowRow> members, Output out) {
        List<FlowRow> held = new ArrayList<>();
        long characters = 0;
        while (members.hasNext() && held.size() <= LARGEST_GROUP && characters <= MOST_CHARACTERS) {
            FlowRow row = members.next();
            held.add(row);
            characters += row.characters();
        }
        long leader = held.stream().mapToLong(FlowRow::position).min().orElseThrow();
        boolean tooLarge = held.size() > LARGEST_GROUP || characters > MOST_CHARACTERS;
        Iterator<FlowRow> all = held.iterator();
        while (all.hasNext() || members.hasNext()) {
            FlowRow row = all.hasNext() ? all.next() : members.next();
            row.joinGroup(leader);
            if (tooLarge && row.isAlive()) {
                row.reject(
                        step.index(),
                        Problem.of(
                                ProblemCode.GROUP_TOO_LARGE,
                                "The group " + step.name() + " has more than " + LARGEST_GROUP
                                        + " rows, or more than 16 million characters.",
                                "Group by more fields."));
            }
            out.add(row);
        }
    }
}

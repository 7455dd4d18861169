package dev.nachlauf.core.step;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.value.Kind;
import java.util.BitSet;
import java.util.List;

/** The slots whose texts a plan only passes on: they go into fields of its writes as they are, and nothing looks at them. */
final class PassedOn {
    private PassedOn() {}

    static BitSet of(Plan plan) {
        BitSet slots = new BitSet();
        plan.inputs().stream().filter(input -> input.kind() == Kind.TEXT).forEach(input -> slots.set(input.slot()));
        plan.steps().forEach(step -> clear(slots, Planner.slots(step)));
        plan.totals().forEach(total -> clear(slots, total.of().slots()));
        for (PlannedWrite write : plan.writes()) {
            write.when().ifPresent(formula -> clear(slots, formula.slots()));
            for (int field = 0; field < write.fields().size(); field++) {
                if (!passesOn(write, field)) {
                    clear(slots, write.fields().get(field).source().slots());
                }
            }
        }
        return slots;
    }

    private static void clear(BitSet slots, List<Integer> looked) {
        looked.forEach(slots::clear);
    }

    /** A write that waits for something else keeps its values, and one that removes records looks at them. */
    private static boolean passesOn(PlannedWrite write, int field) {
        Output output = write.fields().get(field);
        boolean waits =
                write.late() || write.hasReferences() || !write.results().isEmpty();
        boolean looksAt = write.key().contains(field) || write.removal().isPresent();
        return output.source() instanceof Source.Of of
                && of.formula().isField()
                && output.description().kind() == Kind.TEXT
                && !output.fromText()
                && !waits
                && !looksAt;
    }
}

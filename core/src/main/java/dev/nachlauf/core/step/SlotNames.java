package dev.nachlauf.core.step;

import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Plan.Input;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.problem.Problem;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What the slots of a plan are called, and which of them are cells of the source. */
public final class SlotNames {
    private final Plan plan;
    private final Map<Integer, String> names = new HashMap<>();
    private final Map<Integer, Input> inputs = new HashMap<>();

    public SlotNames(Plan plan) {
        this.plan = plan;
        names.put(plan.facts(), "source.file");
        names.put(plan.facts() + 1, "source.sheet");
        names.put(plan.facts() + 2, "source.row");
        for (Input input : plan.inputs()) {
            names.put(input.slot(), input.name());
            inputs.put(input.slot(), input);
        }
        for (PlannedStep step : plan.steps()) {
            if (step instanceof PlannedStep.Assign assign) {
                names.put(assign.slot(), assign.field());
            }
            if (step instanceof PlannedStep.Lookup lookup) {
                for (int i = 0; i < lookup.slots().size(); i++) {
                    names.put(
                            lookup.slots().get(i),
                            lookup.name() + "." + lookup.finding().wanted().get(i));
                }
            }
            if (step instanceof PlannedStep.Combine combine) {
                agreeing(combine.by(), combine.into());
                combine.made().forEach(made -> names.put(made.slot(), made.field()));
            }
            if (step instanceof PlannedStep.WideToLong wide) {
                names.put(wide.name().slot(), wide.name().name());
                names.put(wide.value().slot(), wide.value().name());
            }
            if (step instanceof PlannedStep.LongToWide wide) {
                agreeing(wide.by(), wide.into());
                wide.columns().values().forEach(column -> names.put(column.slot(), column.name()));
            }
        }
    }

    /** What rows agree in keeps its name. */
    private void agreeing(List<Integer> by, List<Integer> into) {
        for (int i = 0; i < by.size(); i++) {
            names.put(into.get(i), of(by.get(i)));
        }
    }

    /** The name of a slot. */
    public String of(int slot) {
        return names.getOrDefault(slot, "row");
    }

    /** The cell behind a slot, for people; null where there is none. */
    public @Nullable String cell(FlowRow row, int slot) {
        Input input = inputs.get(slot);
        return input == null
                ? null
                : row.source().origin().text(plan.columns().get(input.column()).field());
    }

    /** A problem with the place of the cell that a slot was read from. */
    Problem placed(Problem problem, FlowRow row, int slot) {
        String cell = cell(row, slot);
        return cell == null ? problem : problem.withCell(cell);
    }
}

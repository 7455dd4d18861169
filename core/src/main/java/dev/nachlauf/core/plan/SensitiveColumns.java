package dev.nachlauf.core.plan;

import dev.nachlauf.core.plan.Plan.Input;
import dev.nachlauf.core.plan.PlannedStep.Made;
import dev.nachlauf.core.plan.PlannedWrite.Result;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * The columns of a source whose values reach a sensitive field of a target, found by going back from the fields through
 * the writes and the steps. Where columns can't be told apart, all of them count: better one too many.
 */
public final class SensitiveColumns {
    private final Set<Integer> slots = new HashSet<>();

    private SensitiveColumns() {}

    /** Their names, in the order of the source. */
    public static List<String> of(Plan plan) {
        SensitiveColumns sensitive = new SensitiveColumns();
        plan.writes().reversed().forEach(sensitive::back);
        plan.steps().reversed().forEach(sensitive::back);
        return plan.inputs().stream()
                .filter(input -> sensitive.slots.contains(input.slot()))
                .map(Input::name)
                .distinct()
                .toList();
    }

    /** Its sensitive fields, and those of its fields that a later write takes over into a sensitive one. */
    private void back(PlannedWrite write) {
        for (Result result : write.results()) {
            if (result.field() >= 0 && slots.contains(result.slot())) {
                slots.addAll(write.fields().get(result.field()).source().slots());
            }
        }
        write.fields().stream()
                .filter(output -> output.description().sensitive())
                .forEach(output -> slots.addAll(output.source().slots()));
    }

    private void back(PlannedStep step) {
        switch (step) {
            case PlannedStep.Assign assign -> {
                if (slots.contains(assign.slot())) {
                    slots.addAll(assign.formula().slots());
                }
            }
            case PlannedStep.Combine combine -> {
                agreeing(combine.by(), combine.into());
                combine.made().stream()
                        .filter(made -> slots.contains(made.slot()))
                        .forEach(this::made);
            }
            case PlannedStep.LongToWide wide -> {
                agreeing(wide.by(), wide.into());
                if (wide.columns().values().stream().anyMatch(column -> slots.contains(column.slot()))) {
                    slots.addAll(wide.value().slots());
                }
            }
            case PlannedStep.WideToLong wide -> {
                if (slots.contains(wide.value().slot())) {
                    wide.columns().forEach(column -> slots.add(column.slot()));
                }
            }
            case PlannedStep.Lookup lookup -> {
                // what is found belongs to another record; the cells it was found by stay as they are
            }
            case PlannedStep.Chosen ignored -> {}
            case PlannedStep.Where ignored -> {}
            case PlannedStep.Rule ignored -> {}
            case PlannedStep.WholeLoad ignored -> {}
            case PlannedStep.Duplicates ignored -> {}
            case PlannedStep.Group ignored -> {}
            case PlannedStep.ParentsFirst ignored -> {}
        }
    }

    private void made(Made made) {
        made.calls().forEach(call -> slots.addAll(call.slots()));
    }

    private void agreeing(List<Integer> by, List<Integer> into) {
        for (int i = 0; i < by.size(); i++) {
            if (slots.contains(into.get(i))) {
                slots.add(by.get(i));
            }
        }
    }
}

package dev.nachlauf.core.explain;

import dev.nachlauf.core.explain.Derivation.Kind;
import dev.nachlauf.core.explain.Derivation.Translated;
import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.formula.Evaluator;
import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Plan.Input;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedStep.Key;
import dev.nachlauf.core.plan.PlannedStep.Wide;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.PlannedWrite.Result;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.SlotNames;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Follows a field of a target back to the cells that it was made of. */
public final class Explainer {
    private final SlotNames names;
    private final HeardTranslations translations;
    private final Map<Integer, Producer> producers = new HashMap<>();

    /** Says what has filled a slot of a row. */
    private interface Producer {
        Derivation of(FlowRow row, @Nullable Object value);
    }

    /** @param translations heard in the plan's formulas */
    public Explainer(Plan plan, HeardTranslations translations) {
        this.translations = translations;
        this.names = new SlotNames(plan);
        for (int slot = plan.facts(); slot < plan.facts() + Plan.FACTS; slot++) {
            String name = names.of(slot);
            producers.put(slot, (row, value) -> new Derivation(Kind.FACT, name, value, "", "", List.of(), List.of()));
        }
        plan.inputs().forEach(input -> producers.put(input.slot(), (row, value) -> cell(row, input)));
        plan.steps().forEach(this::learn);
        plan.writes().forEach(this::learn);
    }

    private void learn(PlannedStep step) {
        switch (step) {
            case PlannedStep.Assign assign ->
                producers.put(
                        assign.slot(),
                        (row, value) -> computed(Kind.SET, assign.field(), value, assign.formula(), row));
            case PlannedStep.Lookup lookup -> learn(lookup);
            case PlannedStep.Combine combine -> learn(combine);
            case PlannedStep.LongToWide wide -> learn(wide);
            case PlannedStep.WideToLong wide -> learn(wide);
            case PlannedStep.Duplicates duplicates ->
                duplicates.sums().forEach(slot -> made(slot, names.of(slot), "sum(" + names.of(slot) + ")"));
            case PlannedStep.Chosen ignored -> {}
            case PlannedStep.Where ignored -> {}
            case PlannedStep.Rule ignored -> {}
            case PlannedStep.WholeLoad ignored -> {}
            case PlannedStep.Group ignored -> {}
            case PlannedStep.ParentsFirst ignored -> {}
        }
    }

    private void learn(PlannedStep.Lookup step) {
        for (int i = 0; i < step.slots().size(); i++) {
            String name = step.name() + "." + step.finding().wanted().get(i);
            producers.put(step.slots().get(i), (row, value) -> found(Kind.LOOKUP, name, value, step.finding(), row));
        }
    }

    private void learn(PlannedStep.Combine step) {
        agreeing(step.by(), step.into());
        step.made()
                .forEach(made ->
                        made(made.slot(), made.field(), made.formula().source().text()));
    }

    private void learn(PlannedStep.LongToWide step) {
        agreeing(step.by(), step.into());
        step.columns()
                .values()
                .forEach(column ->
                        made(column.slot(), column.name(), step.value().source().text()));
    }

    /** A column that became a row is named by the row itself. */
    private void learn(PlannedStep.WideToLong step) {
        Map<String, Integer> slots = step.columns().stream().collect(Collectors.toMap(Wide::name, Wide::slot));
        producers.put(
                step.name().slot(),
                (row, value) -> new Derivation(
                        Kind.MADE, step.name().name(), value, "the name of a column", "", List.of(), List.of()));
        producers.put(step.value().slot(), (row, value) -> {
            String column = String.valueOf(Values.text(row.slots()[step.name().slot()]));
            Integer slot = slots.get(column);
            return new Derivation(
                    Kind.MADE,
                    step.value().name(),
                    value,
                    "the column " + column,
                    "",
                    List.of(),
                    slot == null ? List.of() : List.of(slot(row, slot)));
        });
    }

    private void learn(PlannedWrite write) {
        for (Result result : write.results()) {
            String field = result.field() < 0
                    ? "id"
                    : write.fields().get(result.field()).description().name();
            producers.put(
                    result.slot(),
                    (row, value) -> new Derivation(
                            Kind.RESULT,
                            write.name() + "." + field,
                            value,
                            "what the write " + write.name() + " made of this row",
                            "",
                            List.of(),
                            List.of()));
        }
    }

    private void agreeing(List<Integer> by, List<Integer> into) {
        for (int i = 0; i < by.size(); i++) {
            made(into.get(i), names.of(by.get(i)), "the same in all rows that were made one");
        }
    }

    private void made(int slot, String name, String how) {
        producers.put(
                slot,
                (row, value) -> new Derivation(
                        Kind.MADE,
                        name,
                        value,
                        how + (row.stands()[0] > 1 ? ", of " + row.stands()[0] + " rows" : ""),
                        "",
                        List.of(),
                        List.of()));
    }

    /**
     * Where the value of a field comes from.
     *
     * @param row behind the last step
     * @param field among the fields of the write, from 0
     * @param value what the map has made of the row
     */
    public Derivation field(FlowRow row, PlannedWrite write, int field, @Nullable Object value) {
        PlannedWrite.Output output = write.fields().get(field);
        String name = output.description().name();
        return switch (output.source()) {
            case Source.Of of -> computed(Kind.MAP, name, value, of.formula(), row);
            case Source.Found found -> found(Kind.REFERENCE, name, value, found.finding(), row);
            case Source.Kept ignored -> new Derivation(Kind.MAP, name, null, "not written", "", List.of(), List.of());
        };
    }

    private Derivation computed(Kind kind, String name, @Nullable Object value, Formula formula, FlowRow row) {
        List<Translated> translated = translations.during(() -> tried(formula.evaluator(), row));
        return new Derivation(kind, name, value, formula.source().text(), "", translated, slots(row, formula.slots()));
    }

    /** Only for what is heard on the way; the value is known. */
    private static void tried(Evaluator evaluator, FlowRow row) {
        try {
            evaluator.evaluate(row.slots());
        } catch (BrokenInput | ValueProblem e) {
            // it was made of values that the row no longer has
        }
    }

    private Derivation found(Kind kind, String name, @Nullable Object value, Finding finding, FlowRow row) {
        String keys = finding.keys().stream()
                .map(key -> key.field() + " = " + key.formula().source().text())
                .collect(Collectors.joining(" and "));
        List<Translated> translated = translations.during(
                () -> finding.keys().forEach(key -> tried(key.formula().evaluator(), row)));
        List<Integer> slots = finding.keys().stream()
                .map(Key::formula)
                .flatMap(formula -> formula.slots().stream())
                .distinct()
                .toList();
        return new Derivation(
                kind, name, value, "found in " + finding.records() + " by " + keys, "", translated, slots(row, slots));
    }

    private List<Derivation> slots(FlowRow row, List<Integer> slots) {
        List<Derivation> from = new ArrayList<>();
        for (int slot : slots.stream().distinct().toList()) {
            from.add(slot(row, slot));
        }
        return from;
    }

    private Derivation slot(FlowRow row, int slot) {
        Object value = row.slots()[slot] == BrokenInput.VALUE ? null : row.slots()[slot];
        Producer producer = producers.get(slot);
        return producer == null
                ? new Derivation(Kind.MADE, names.of(slot), value, "", "", List.of(), List.of())
                : producer.of(row, value);
    }

    /** The raw cell, as it stands in the source. */
    private Derivation cell(FlowRow row, Input input) {
        @Nullable Object[] cells = row.source().cells();
        Object raw = input.column() < cells.length ? cells[input.column()] : null;
        String place = Objects.requireNonNullElse(names.cell(row, input.slot()), "");
        return new Derivation(Kind.CELL, input.name(), raw, "", place, List.of(), List.of());
    }
}

package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.job.JobDefinition.Assignment;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.Step;
import dev.nachlauf.core.job.Step.Among;
import dev.nachlauf.core.plan.PlannedStep.FileField;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedStep.Made;
import dev.nachlauf.core.plan.PlannedStep.Wide;
import dev.nachlauf.core.plan.RowScope.Known;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.NamePattern;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Plans the steps one after the other; each changes what those below it can see. */
final class StepPlanner {
    private final int facts;
    private final Described described;
    private final List<Problem> problems;
    private final List<PlannedStep> planned = new ArrayList<>();
    private RowScope scope;
    /** The step that gives the rows their order or their groups, and its place; null where there is none so far. */
    private @Nullable Placed<String> arranging;

    StepPlanner(RowScope scope, int facts, Described described, List<Problem> problems) {
        this.scope = scope;
        this.facts = facts;
        this.described = described;
        this.problems = problems;
    }

    /** What can be seen below the last step. */
    RowScope scope() {
        return scope;
    }

    List<PlannedStep> planned() {
        return planned;
    }

    /** @param below the names that are made further down */
    void plan(int index, Step step, Set<String> below) {
        scope = scope.above(below);
        int above = planned.size();
        step(index, step, below);
        boolean others = planned.subList(above, planned.size()).stream().anyMatch(PlannedStep::changesRows);
        if (arranging != null && others) {
            problems.add(Problem.at(
                    arranging.place(),
                    ProblemCode.STEP_ORDER,
                    "A step below makes other rows of these, so that what " + arranging.value()
                            + " has arranged would be lost.",
                    "Move " + arranging.value() + " to the end of the steps."));
            arranging = null;
        }
    }

    private void step(int index, Step step, Set<String> below) {
        switch (step) {
            case Step.Where where ->
                scope.check(where.formula(), Kind.BOOLEAN, problems)
                        .ifPresent(formula -> planned.add(new PlannedStep.Where(index, formula)));
            case Step.Rule rule ->
                scope.check(rule.formula(), Kind.BOOLEAN, problems)
                        .ifPresent(formula ->
                                planned.add(new PlannedStep.Rule(index, formula, rule.message(), rule.warning())));
            case Step.Set set -> set(index, set, below);
            case Step.Lookup lookup -> lookup(index, lookup);
            case Step.WholeLoad whole -> wholeLoad(index, whole);
            case Step.Duplicates duplicates -> duplicates(index, duplicates);
            case Step.Combine combine -> combine(index, combine);
            case Step.WideToLong wide -> wideToLong(index, wide);
            case Step.LongToWide wide -> longToWide(index, wide);
            case Step.Group group -> group(index, group);
            case Step.ParentsFirst parents -> {
                arrange("parents-first", parents.key().stream().findFirst());
                planned.add(new PlannedStep.ParentsFirst(index, slots(parents.key()), slots(parents.parent())));
            }
        }
    }

    /** A new slot; also after a problem, so that formulas below don't complain about a missing field. */
    private int grow(String name, Kind kind) {
        int slot = scope.slots();
        scope = scope.with(new Field(name, kind));
        return slot;
    }

    private void set(int index, Step.Set set, Set<String> below) {
        List<String> names = set.makes();
        for (int i = 0; i < names.size(); i++) {
            Set<String> later = new HashSet<>(below);
            later.addAll(names.subList(i + 1, names.size()));
            scope = scope.above(later);
            assign(index, set.assignments().get(i));
        }
    }

    private void assign(int index, Assignment line) {
        Optional<Formula> formula = scope.check(line.formula(), problems);
        String name = line.field().value();
        int slot = grow(name, formula.flatMap(Formula::kind).orElse(Kind.TEXT));
        formula.ifPresent(sound -> planned.add(new PlannedStep.Assign(index, name, slot, sound)));
    }

    private void lookup(int index, Step.Lookup lookup) {
        String name = lookup.name().value();
        List<FileField> made = new ArrayList<>();
        Optional<RecordDescription> records = described
                .of(lookup.among(), problems)
                .map(description -> lookup.among() instanceof Among.File file
                        ? FindingPlanner.madeOf(file, description, scope.surroundings(), made, problems)
                        : description);
        Optional<Finding> finding = records.flatMap(description -> FindingPlanner.finding(
                        scope, lookup.among(), description, lookup.match(), lookup.bring(), problems))
                .map(found -> new Finding(found.among(), found.records(), found.keys(), found.fields(), made));
        List<Integer> slots = new ArrayList<>();
        for (Placed<String> field : lookup.bring()) {
            Kind kind = records.flatMap(description -> description.field(field.value()))
                    .map(FieldDescription::kind)
                    .orElse(Kind.TEXT);
            slots.add(grow(name + "." + field.value(), kind));
        }
        finding.ifPresent(sound -> planned.add(
                new PlannedStep.Lookup(index, name, sound, slots, lookup.emptyWhereNone(), lookup.firstOfSeveral())));
    }

    private void wholeLoad(int index, Step.WholeLoad whole) {
        List<Problem> found = new ArrayList<>();
        scope.aggregate(whole.formula(), List.of(), found).ifPresent(sound -> {
            if (sound.formula().kind().orElse(Kind.BOOLEAN) != Kind.BOOLEAN) {
                found.add(Problem.at(
                        whole.formula().place(),
                        ProblemCode.TYPE_MISMATCH,
                        "This is " + sound.formula().kind().orElseThrow().word() + ", but boolean is wanted.",
                        "Such as whole-load: sum(amount) = 0."));
            } else {
                planned.add(new PlannedStep.WholeLoad(
                        index, sound.calls(), sound.formula(), whole.message(), whole.warning()));
            }
        });
        problems.addAll(found);
    }

    private Optional<Known> known(Placed<String> field) {
        Optional<Known> known = scope.find(field.value());
        if (known.isEmpty()) {
            problems.add(Problem.at(
                    field.place(),
                    ProblemCode.FIELD_UNKNOWN,
                    "There is no field " + field.value() + " here.",
                    NearestNames.suggestion(field.value(), scope.names(), "Make it with set.")));
        }
        return known;
    }

    private List<Integer> slots(List<Placed<String>> fields) {
        return fields.stream()
                .flatMap(field -> known(field).stream())
                .map(Known::slot)
                .toList();
    }

    private void duplicates(int index, Step.Duplicates duplicates) {
        List<Integer> by = slots(duplicates.by());
        List<Integer> sums = new ArrayList<>();
        for (Placed<String> field : duplicates.sums()) {
            known(field).ifPresent(known -> {
                sums.add(known.slot());
                if (!known.field().kind().isNumber()) {
                    problems.add(Problem.at(
                            field.place(),
                            ProblemCode.TYPE_MISMATCH,
                            field.value() + " is " + known.field().kind().word() + " and can't be added up.",
                            "Declare it as a number under read, or make it one with set."));
                }
            });
        }
        List<String> names = duplicates.by().stream().map(Placed::value).toList();
        planned.add(new PlannedStep.Duplicates(index, by, names, duplicates.keep(), sums));
    }

    private void combine(int index, Step.Combine combine) {
        RowScope before = scope;
        List<Known> by =
                combine.by().stream().flatMap(field -> known(field).stream()).toList();
        List<Field> common = by.stream().map(Known::field).toList();
        scope = before.closed(facts);
        List<Integer> into = new ArrayList<>();
        by.forEach(known -> into.add(grow(known.field().name(), known.field().kind())));
        List<Made> made = new ArrayList<>();
        for (Assignment line : combine.make()) {
            Optional<RowScope.Aggregated> formula = before.aggregate(line.formula(), common, problems);
            Kind kind = formula.flatMap(one -> one.formula().kind()).orElse(Kind.TEXT);
            int slot = grow(line.field().value(), kind);
            formula.ifPresent(one -> made.add(new Made(line.field().value(), slot, one.calls(), one.formula())));
        }
        planned.add(new PlannedStep.Combine(index, by.stream().map(Known::slot).toList(), into, made));
    }

    private void wideToLong(int index, Step.WideToLong step) {
        List<String> names = new ArrayList<>();
        for (Placed<String> column : step.columns()) {
            NamePattern pattern = NamePattern.ofStars(column.value());
            List<String> matching =
                    scope.names().stream().filter(pattern::matches).toList();
            if (matching.isEmpty()) {
                problems.add(Problem.at(
                        column.place(),
                        ProblemCode.FIELD_UNKNOWN,
                        "There is no field " + column.value() + " here.",
                        NearestNames.suggestion(column.value(), scope.names(), "* stands for any text.")));
            }
            matching.stream().filter(name -> !names.contains(name)).forEach(names::add);
        }
        List<Known> values =
                names.stream().flatMap(name -> scope.find(name).stream()).toList();
        boolean alike =
                values.stream().map(known -> known.field().kind()).distinct().count() <= 1;
        List<Known> texts =
                names.stream().flatMap(name -> scope.findText(name).stream()).toList();
        boolean textsAlike = texts.stream().allMatch(known -> known.field().kind() == Kind.TEXT);
        if (!alike && !textsAlike) {
            problems.add(Problem.at(
                    step.columns().getFirst().place(),
                    ProblemCode.TYPE_MISMATCH,
                    "The columns are of different kinds, so their values can't stand in one field.",
                    "Declare them alike under read, fields."));
        }
        List<Known> columns = alike ? values : texts;
        Kind kind = columns.isEmpty() ? Kind.TEXT : columns.getFirst().field().kind();
        Wide name = new Wide(step.name().value(), grow(step.name().value(), Kind.TEXT));
        Wide value = new Wide(step.value().value(), grow(step.value().value(), kind));
        List<Wide> wide = columns.stream()
                .map(known -> new Wide(known.field().name(), known.slot()))
                .toList();
        planned.add(new PlannedStep.WideToLong(index, wide, name, value, step.keepBlank()));
    }

    private void longToWide(int index, Step.LongToWide step) {
        Optional<Formula> name = scope.check(step.name(), problems);
        Optional<Formula> value = scope.check(step.value(), problems);
        List<Known> by =
                step.by().stream().flatMap(field -> known(field).stream()).toList();
        scope = scope.closed(facts);
        List<Integer> into = new ArrayList<>();
        by.forEach(known -> into.add(grow(known.field().name(), known.field().kind())));
        Map<String, Wide> columns = new LinkedHashMap<>();
        for (Step.Column column : step.columns()) {
            Kind kind = value.flatMap(Formula::kind).orElse(Kind.TEXT);
            String field = column.field().value();
            columns.put(column.name(), new Wide(field, grow(field, kind)));
        }
        if (name.isPresent() && value.isPresent()) {
            planned.add(new PlannedStep.LongToWide(
                    index, by.stream().map(Known::slot).toList(), into, name.get(), value.get(), columns));
        }
    }

    private void group(int index, Step.Group group) {
        arrange("group", Optional.of(group.name()));
        planned.add(new PlannedStep.Group(index, group.name().value(), slots(group.by()), group.linesAlone()));
    }

    /** Rows stand in one order: a second step that arranges them would undo the first. */
    private void arrange(String word, Optional<Placed<String>> at) {
        if (arranging != null && at.isPresent()) {
            problems.add(Problem.at(
                    at.get().place(),
                    ProblemCode.STEP_ORDER,
                    "The rows are arranged already, by " + arranging.value() + ".",
                    "Take one of group and parents-first; each stands once."));
        }
        at.ifPresent(place -> arranging = new Placed<>(word, place.place()));
    }
}

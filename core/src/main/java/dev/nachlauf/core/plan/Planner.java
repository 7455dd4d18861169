package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope.Fixed;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobDefinition.FieldDeclaration;
import dev.nachlauf.core.job.JobDefinition.Mapping;
import dev.nachlauf.core.job.JobDefinition.Step;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.plan.Plan.Input;
import dev.nachlauf.core.plan.Plan.Output;
import dev.nachlauf.core.plan.Plan.PlannedStep;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** Checks a definition against the source's header and the target's description, and makes the plan. */
public final class Planner {
    private final JobDefinition job;
    private final Surroundings surroundings;
    private final List<Problem> problems;

    private Planner(JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems) {
        this.job = job;
        this.problems = problems;
        Map<String, Fixed> fixed = new HashMap<>();
        for (JobDefinition.Parameter parameter : job.parameters()) {
            String name = parameter.name().value();
            fixed.put(name, new Fixed(parameter.kind(), parameters.get(name)));
        }
        this.surroundings = Surroundings.of(fixed);
    }

    /**
     * The plan; empty when there is an error. Warnings and errors are added to {@code problems}.
     *
     * @param columns the source's columns as they were found; what the job declares takes their place
     * @param parameters a value for each of the job's parameters; null where it has none
     */
    public static Optional<Plan> plan(
            JobDefinition job,
            Map<String, @Nullable Object> parameters,
            List<SourceColumn> columns,
            RecordDescription target,
            List<Problem> problems) {
        List<Problem> found = new ArrayList<>();
        Plan plan = new Planner(job, parameters, found).plan(columns, target);
        problems.addAll(found);
        boolean sound = found.stream().allMatch(problem -> problem.code().isWarning());
        return sound ? Optional.of(plan) : Optional.empty();
    }

    private Plan plan(List<SourceColumn> source, RecordDescription target) {
        Map<String, FieldDeclaration> declared = declarations(source);
        List<SourceColumn> columns =
                source.stream().map(column -> declared(column, declared)).toList();
        List<Integer> detected = detected(columns, declared);
        RowScope scope = RowScope.of(columns, detected, surroundings);
        List<PlannedStep> steps = new ArrayList<>();
        for (Step step : job.steps()) {
            scope = step(step, scope, steps);
        }
        List<Output> outputs = outputs(scope, columns, target);
        List<Integer> key = key(outputs, target);
        boolean unique = target.isUnique(names(job.write().key()));
        boolean known = job.write().key().stream()
                .allMatch(field -> target.field(field.value()).isPresent());
        if (!unique && known && !job.write().key().isEmpty()) {
            add(
                    job.write().key().getFirst(),
                    ProblemCode.KEY_NOT_UNIQUE,
                    "Nothing in " + target.name() + " keeps "
                            + String.join(" + ", names(job.write().key()))
                            + " unique: others can make duplicates beside this job.",
                    unique(target));
        }
        Set<Integer> read = new TreeSet<>();
        steps.forEach(step -> read.addAll(formula(step).slots()));
        outputs.forEach(output -> read.addAll(output.formula().slots()));
        int facts = columns.size();
        boolean needsFacts = read.stream().anyMatch(slot -> slot >= facts && slot < facts + RowScope.facts());
        return new Plan(
                job,
                columns,
                scope.slots(),
                facts,
                needsFacts,
                inputs(columns, detected, read),
                steps,
                outputs,
                key,
                target,
                unique);
    }

    private static SourceColumn declared(SourceColumn column, Map<String, FieldDeclaration> declared) {
        FieldDeclaration declaration = declared.get(column.name());
        return declaration == null ? column : new SourceColumn(column.field(), declaration.reading(), "");
    }

    /** The columns whose kind was detected to be another than text. */
    private static List<Integer> detected(List<SourceColumn> columns, Map<String, FieldDeclaration> declared) {
        List<Integer> detected = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            SourceColumn column = columns.get(i);
            if (!declared.containsKey(column.name()) && column.reading().kind() != Kind.TEXT) {
                detected.add(i);
            }
        }
        return detected;
    }

    private static List<Input> inputs(List<SourceColumn> columns, List<Integer> detected, Set<Integer> read) {
        List<Input> inputs = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            if (read.contains(i)) {
                Reading reading =
                        detected.contains(i) ? Reading.TEXT : columns.get(i).reading();
                inputs.add(new Input(columns.get(i).name(), i, i, reading.kind(), reading.parser()));
            }
        }
        for (int i = 0; i < detected.size(); i++) {
            int slot = columns.size() + RowScope.facts() + i;
            if (read.contains(slot)) {
                SourceColumn column = columns.get(detected.get(i));
                Reading reading = column.reading();
                inputs.add(new Input(column.name(), detected.get(i), slot, reading.kind(), reading.parser()));
            }
        }
        return inputs;
    }

    /** The formula of a step. */
    public static Formula formula(PlannedStep step) {
        return switch (step) {
            case PlannedStep.Where where -> where.formula();
            case PlannedStep.Assign assign -> assign.formula();
            case PlannedStep.Rule rule -> rule.formula();
        };
    }

    private Map<String, FieldDeclaration> declarations(List<SourceColumn> columns) {
        List<String> header = columns.stream().map(SourceColumn::name).toList();
        Map<String, FieldDeclaration> declared = new LinkedHashMap<>();
        Shape shape = new Shape(
                header.stream().map(name -> new Field(name, Kind.TEXT)).toList());
        for (FieldDeclaration field : job.read().fields()) {
            List<Integer> slots = shape.find(field.name().value(), false);
            if (slots.size() == 1) {
                declared.put(header.get(slots.getFirst()), field);
            } else {
                add(
                        field.name(),
                        ProblemCode.FIELD_UNKNOWN,
                        "The source has no field " + field.name().value() + ".",
                        NearestNames.suggestion(
                                field.name().value(), header, "Fields: " + String.join(", ", header) + "."));
            }
        }
        return declared;
    }

    private RowScope step(Step step, RowScope scope, List<PlannedStep> steps) {
        switch (step) {
            case Step.Where where ->
                scope.check(where.formula(), Kind.BOOLEAN, problems)
                        .ifPresent(formula -> steps.add(new PlannedStep.Where(formula)));
            case Step.Rule rule ->
                scope.check(rule.formula(), Kind.BOOLEAN, problems)
                        .ifPresent(formula -> steps.add(new PlannedStep.Rule(formula, rule.message())));
            case Step.Set set -> {
                RowScope grown = scope;
                for (JobDefinition.Assignment line : set.assignments()) {
                    Optional<Formula> formula = grown.check(line.formula(), problems);
                    String name = line.field().value();
                    int slot = grown.slots();
                    // also after a problem, so that formulas below don't complain about a missing field
                    grown = grown.with(
                            new Field(name, formula.flatMap(Formula::kind).orElse(Kind.TEXT)));
                    formula.ifPresent(sound -> steps.add(new PlannedStep.Assign(name, slot, sound)));
                }
                return grown;
            }
        }
        return scope;
    }

    private List<Output> outputs(RowScope scope, List<SourceColumn> columns, RecordDescription target) {
        List<Output> outputs = new ArrayList<>();
        List<String> known =
                target.fields().stream().map(FieldDescription::name).toList();
        for (Mapping line : job.write().map()) {
            String name = line.field().value();
            Optional<FieldDescription> field = target.field(name);
            Optional<Formula> formula = scope.checkFor(
                    line.formula(), field.map(FieldDescription::kind).orElse(Kind.TEXT), problems);
            if (field.isEmpty()) {
                add(
                        line.field(),
                        ProblemCode.TARGET_FIELD_UNKNOWN,
                        target.name() + " has no field " + name + ".",
                        NearestNames.suggestion(name, known, "Fields: " + String.join(", ", known) + "."));
            } else if (field.get().readOnly()) {
                add(
                        line.field(),
                        ProblemCode.TARGET_FIELD_READ_ONLY,
                        "The field " + name + " can't be written: "
                                + field.get().readOnlyReason() + ".",
                        "Take it out of the map.");
            } else {
                formula.flatMap(sound -> output(line.formula(), sound, field.get(), columns))
                        .ifPresent(outputs::add);
            }
        }
        required(target);
        return outputs;
    }

    private Optional<Output> output(
            FormulaSource source, Formula formula, FieldDescription field, List<SourceColumn> columns) {
        Kind kind = formula.kind().orElse(field.kind());
        if (kind == field.kind() || kind == Kind.INTEGER && field.kind() == Kind.DECIMAL) {
            return Optional.of(new Output(field, formula, false));
        }
        if (kind == Kind.TEXT) {
            ask(source, formula, field, columns);
            return Optional.of(new Output(field, formula, true));
        }
        problems.add(Problem.at(
                source.place(),
                ProblemCode.TYPE_MISMATCH,
                "This is " + kind.word() + ", but the field " + field.name() + " is "
                        + field.kind().word() + " (" + field.typeName() + ").",
                "cast(… as " + field.kind().word() + ") converts where that is meant."));
        return Optional.empty();
    }

    /** A column that can be read in two ways is not guessed where the field needs one of them. */
    private void ask(FormulaSource source, Formula formula, FieldDescription field, List<SourceColumn> columns) {
        if (formula.slots().size() != 1 || formula.slots().getFirst() >= columns.size()) {
            return;
        }
        SourceColumn column = columns.get(formula.slots().getFirst());
        if (!column.question().isEmpty()) {
            problems.add(Problem.at(
                    source.place(),
                    ProblemCode.SOURCE_AMBIGUOUS,
                    "The field " + field.name() + " is " + field.kind().word() + ", and the source leaves open how "
                            + column.name() + " is meant: " + column.question(),
                    "Say it under read, fields: " + column.name() + "."));
        }
    }

    /** For inserts all required fields have to be mapped. */
    private void required(RecordDescription target) {
        Set<String> mapped = new TreeSet<>(
                job.write().map().stream().map(line -> line.field().value()).toList());
        for (FieldDescription field : target.fields()) {
            if (field.required() && !field.readOnly() && !mapped.contains(field.name())) {
                add(
                        job.write().records(),
                        ProblemCode.TARGET_FIELD_REQUIRED,
                        "The field " + field.name() + " of " + target.name() + " is required, but not mapped.",
                        "Map it: new records can't be inserted without it.");
            }
        }
    }

    private List<Integer> key(List<Output> outputs, RecordDescription target) {
        List<String> written =
                outputs.stream().map(output -> output.description().name()).toList();
        Set<String> mapped = new TreeSet<>(
                job.write().map().stream().map(line -> line.field().value()).toList());
        List<Integer> key = new ArrayList<>();
        for (Placed<String> field : job.write().key()) {
            int index = written.indexOf(field.value());
            if (index >= 0) {
                key.add(index);
            } else if (!mapped.contains(field.value())) {
                boolean known = target.field(field.value()).isPresent();
                add(
                        field,
                        known ? ProblemCode.KEY_NOT_MAPPED : ProblemCode.TARGET_FIELD_UNKNOWN,
                        known
                                ? "The key's field " + field.value() + " is not mapped."
                                : target.name() + " has no field " + field.value() + ".",
                        known
                                ? "Give it a formula under map."
                                : NearestNames.suggestion(field.value(), mapped, unique(target)));
            }
        }
        return key;
    }

    private static String unique(RecordDescription target) {
        List<String> keys = target.uniqueKeys().stream()
                .map(key -> String.join(" + ", key.fields()))
                .distinct()
                .toList();
        return keys.isEmpty() ? "It has no unique fields." : "Unique there: " + String.join("; ", keys) + ".";
    }

    private static List<String> names(List<Placed<String>> placed) {
        return placed.stream().map(Placed::value).toList();
    }

    private void add(Placed<String> at, ProblemCode code, String sentence, String remedy) {
        problems.add(Problem.at(at.place(), code, sentence, remedy));
    }
}

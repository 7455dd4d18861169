package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope;
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
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
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
    private final Map<String, @Nullable Object> parameters;
    private final Map<String, Kind> parameterKinds = new HashMap<>();
    private final List<Problem> problems;

    private Planner(JobDefinition job, Map<String, @Nullable Object> parameters, List<Problem> problems) {
        this.job = job;
        this.parameters = parameters;
        this.problems = problems;
        job.parameters()
                .forEach(parameter -> parameterKinds.put(parameter.name().value(), parameter.kind()));
    }

    /**
     * The plan; empty when there is an error. Warnings and errors are added to {@code problems}.
     *
     * @param parameters a value for each of the job's parameters; null where it has none
     */
    public static Optional<Plan> plan(
            JobDefinition job,
            Map<String, @Nullable Object> parameters,
            List<String> header,
            RecordDescription target,
            List<Problem> problems) {
        List<Problem> found = new ArrayList<>();
        Plan plan = new Planner(job, parameters, found).plan(header, target);
        problems.addAll(found);
        boolean sound = found.stream().allMatch(problem -> problem.code().isWarning());
        return sound ? Optional.of(plan) : Optional.empty();
    }

    private Plan plan(List<String> header, RecordDescription target) {
        Map<String, FieldDeclaration> declared = declarations(header);
        List<Field> columns = new ArrayList<>();
        for (String name : header) {
            FieldDeclaration declaration = declared.get(name);
            columns.add(new Field(name, declaration == null ? Kind.TEXT : declaration.kind()));
        }
        Shape shape = new Shape(columns);
        List<PlannedStep> steps = new ArrayList<>();
        for (Step step : job.steps()) {
            shape = step(step, shape, steps);
        }
        List<Output> outputs = outputs(shape, target);
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
        List<Input> inputs = new ArrayList<>();
        for (int column = 0; column < header.size(); column++) {
            if (read.contains(column)) {
                inputs.add(new Input(header.get(column), column, column, parser(declared.get(header.get(column)))));
            }
        }
        return new Plan(job, header, shape.fields().size(), inputs, steps, outputs, key, target, unique);
    }

    /** The formula of a step. */
    public static Formula formula(PlannedStep step) {
        return switch (step) {
            case PlannedStep.Where where -> where.formula();
            case PlannedStep.Assign assign -> assign.formula();
            case PlannedStep.Rule rule -> rule.formula();
        };
    }

    private static TextParser parser(@Nullable FieldDeclaration declaration) {
        return declaration == null
                ? TextParser.of(Kind.TEXT, null, null)
                : TextParser.of(declaration.kind(), declaration.pattern(), declaration.locale());
    }

    private Map<String, FieldDeclaration> declarations(List<String> header) {
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

    private Scope scope(Shape shape) {
        return new Scope(shape, parameters, parameterKinds);
    }

    private Shape step(Step step, Shape shape, List<PlannedStep> steps) {
        switch (step) {
            case Step.Where where ->
                Formula.check(where.formula(), scope(shape), Kind.BOOLEAN, problems)
                        .ifPresent(formula -> steps.add(new PlannedStep.Where(formula)));
            case Step.Rule rule ->
                Formula.check(rule.formula(), scope(shape), Kind.BOOLEAN, problems)
                        .ifPresent(formula -> steps.add(new PlannedStep.Rule(formula, rule.message())));
            case Step.Set set -> {
                Shape grown = shape;
                for (JobDefinition.Assignment line : set.assignments()) {
                    Optional<Formula> formula = Formula.check(line.formula(), scope(grown), problems);
                    String name = line.field().value();
                    int slot = grown.fields().size();
                    // also after a problem, so that formulas below don't complain about a missing field
                    grown = grown.with(
                            new Field(name, formula.flatMap(Formula::kind).orElse(Kind.TEXT)));
                    formula.ifPresent(sound -> steps.add(new PlannedStep.Assign(name, slot, sound)));
                }
                return grown;
            }
        }
        return shape;
    }

    private List<Output> outputs(Shape shape, RecordDescription target) {
        List<Output> outputs = new ArrayList<>();
        List<String> known =
                target.fields().stream().map(FieldDescription::name).toList();
        for (Mapping line : job.write().map()) {
            String name = line.field().value();
            Optional<FieldDescription> field = target.field(name);
            Optional<Formula> formula = Formula.check(line.formula(), scope(shape), problems);
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
                formula.flatMap(sound -> output(line.formula(), sound, field.get()))
                        .ifPresent(outputs::add);
            }
        }
        required(target);
        return outputs;
    }

    private Optional<Output> output(FormulaSource source, Formula formula, FieldDescription field) {
        Kind kind = formula.kind().orElse(field.kind());
        if (kind == field.kind() || kind == Kind.INTEGER && field.kind() == Kind.DECIMAL) {
            return Optional.of(new Output(field, formula, false));
        }
        if (kind == Kind.TEXT) {
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

package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.Issue;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobDefinition.FieldDeclaration;
import dev.nachlauf.core.job.JobDefinition.Write;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.Step;
import dev.nachlauf.core.plan.Plan.Input;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;

/** Checks a definition against the source's columns and the descriptions of what it names, and makes the plan. */
public final class Planner {
    private final JobDefinition job;
    private final Surroundings surroundings;
    private final Described described;
    private final List<Problem> problems;

    private Planner(JobDefinition job, Surroundings surroundings, Described described, List<Problem> problems) {
        this.job = job;
        this.surroundings = surroundings;
        this.described = described;
        this.problems = problems;
    }

    /**
     * The plan; empty when there is an error. Warnings and errors are added to {@code problems}.
     *
     * @param surroundings parameters, facts of the run, crosswalks and shared formulas
     * @param columns the source's columns as they were found; what the job declares takes their place
     */
    public static Optional<Plan> plan(
            JobDefinition job,
            Surroundings surroundings,
            List<SourceColumn> columns,
            Described described,
            List<Problem> problems) {
        return plan(job, surroundings, columns, Choice.ALL, described, problems);
    }

    /**
     * The plan for some rows of the source.
     *
     * @param choice which rows; where it isn't all, nothing counts as gone
     */
    public static Optional<Plan> plan(
            JobDefinition job,
            Surroundings surroundings,
            List<SourceColumn> columns,
            Choice choice,
            Described described,
            List<Problem> problems) {
        List<Problem> found = new ArrayList<>();
        Optional<Plan> plan = new Planner(job, surroundings, described, found).plan(columns, choice);
        // a write with two keys is planned twice
        problems.addAll(found.stream().distinct().toList());
        boolean sound = found.stream().allMatch(problem -> problem.code().isWarning());
        return sound ? plan : Optional.empty();
    }

    private Optional<Plan> plan(List<SourceColumn> source, Choice choice) {
        Map<String, FieldDeclaration> declared = declarations(source);
        List<SourceColumn> columns =
                source.stream().map(column -> declared(column, declared)).toList();
        List<Integer> detected = detected(columns, declared);
        RowScope first = RowScope.of(columns, detected, surroundings);
        List<PlannedStep> planned = new ArrayList<>(chosen(first, choice));
        StepPlanner steps = new StepPlanner(first, columns.size(), described, problems);
        for (int i = 0; i < job.steps().size(); i++) {
            steps.plan(i, job.steps().get(i), below(i + 1, 0));
        }
        WritePlanner planner = new WritePlanner(steps.scope(), columns, job, described, problems);
        List<PlannedWrite> writes = writes(planner);
        checkFiles();
        if (writes.size() < job.writes().size()) {
            return Optional.empty();
        }
        planned.addAll(of(steps.planned(), choice));
        List<PlannedTotal> totals = totals(first, writes);
        Set<Integer> read = read(planned, writes);
        totals.forEach(total -> read.addAll(total.of().slots()));
        int facts = columns.size();
        boolean needsFacts = read.stream().anyMatch(slot -> slot >= facts && slot < facts + Plan.FACTS);
        return Optional.of(new Plan(
                job,
                columns,
                planner.scope().slots(),
                facts,
                needsFacts,
                inputs(columns, detected, read),
                planned,
                writes,
                totals));
    }

    private List<PlannedWrite> writes(WritePlanner planner) {
        List<PlannedWrite> writes = new ArrayList<>();
        for (Write write : job.writes()) {
            planner.plan(write, below(job.steps().size(), job.writes().indexOf(write) + 1))
                    .ifPresent(writes::add);
        }
        return writes;
    }

    private List<PlannedTotal> totals(RowScope first, List<PlannedWrite> writes) {
        PlannedWrite main = writes.get(job.writes().indexOf(job.write()));
        return new TotalsPlanner(first, problems)
                .plan(job.totals(), main, job.write().records());
    }

    /** What holds for a whole load holds for no part of it. */
    private static List<PlannedStep> of(List<PlannedStep> steps, Choice choice) {
        return steps.stream()
                .filter(step -> !choice.again() || !(step instanceof PlannedStep.WholeLoad))
                .toList();
    }

    private void checkFiles() {
        requireOneKind();
        requireOneWriteEach();
    }

    /** What is handed over can't be taken back, so it isn't mixed with what can. */
    private void requireOneKind() {
        boolean issues = job.writes().getFirst().issue().isPresent();
        job.writes().stream()
                .filter(write -> write.issue().isPresent() != issues)
                .findFirst()
                .ifPresent(write -> add(
                        write.records(),
                        ProblemCode.MAP_UNFIT,
                        "A job writes files or records, not both.",
                        "Make a job of each."));
    }

    /** A file is made once, so that no write undoes what another one did. */
    private void requireOneWriteEach() {
        Set<List<String>> files = new HashSet<>();
        job.writes().stream()
                .filter(write -> write.issue().filter(Issue::adds).isPresent())
                .filter(write -> !files.add(
                        List.of(write.connection().value(), write.records().value())))
                .forEach(write -> add(
                        write.records(),
                        ProblemCode.MAP_UNFIT,
                        "Two writes add to the file " + write.records().value() + ".",
                        "Bring the rows together in one write, or make a job of each."));
    }

    private List<PlannedStep> chosen(RowScope first, Choice choice) {
        Optional<Formula> where = choice.where().flatMap(formula -> first.check(formula, Kind.BOOLEAN, problems));
        return choice.isPart() ? List.of(new PlannedStep.Chosen(choice.rows(), where)) : List.of();
    }

    /** The names that these steps and writes, and all below them, make. */
    private Set<String> below(int step, int write) {
        Set<String> names = new TreeSet<>();
        job.steps().stream().skip(step).map(Step::makes).forEach(names::addAll);
        job.writes().stream().skip(write).forEach(later -> names.add(later.name() + "."));
        return names;
    }

    /** Every slot that some formula reads. */
    private static Set<Integer> read(List<PlannedStep> steps, List<PlannedWrite> writes) {
        Set<Integer> read = new TreeSet<>();
        for (PlannedStep step : steps) {
            read.addAll(slots(step));
        }
        for (PlannedWrite write : writes) {
            write.when().ifPresent(formula -> read.addAll(formula.slots()));
            write.fields().forEach(output -> read.addAll(output.source().slots()));
        }
        return read;
    }

    /** The slots that a step reads. */
    public static List<Integer> slots(PlannedStep step) {
        return switch (step) {
            case PlannedStep.Chosen chosen -> chosen.where().map(Formula::slots).orElse(List.of());
            case PlannedStep.Where where -> where.formula().slots();
            case PlannedStep.Assign assign -> assign.formula().slots();
            case PlannedStep.Rule rule -> rule.formula().slots();
            case PlannedStep.Lookup lookup ->
                lookup.finding().keys().stream()
                        .flatMap(key -> key.formula().slots().stream())
                        .toList();
            case PlannedStep.WholeLoad whole ->
                whole.calls().stream().flatMap(call -> call.slots().stream()).toList();
            case PlannedStep.Duplicates duplicates -> joined(duplicates.by(), duplicates.sums());
            case PlannedStep.Combine combine ->
                joined(
                        combine.by(),
                        combine.made().stream()
                                .flatMap(made -> made.calls().stream())
                                .flatMap(call -> call.slots().stream())
                                .toList());
            case PlannedStep.WideToLong wide ->
                wide.columns().stream().map(PlannedStep.Wide::slot).toList();
            case PlannedStep.LongToWide wide ->
                joined(wide.by(), joined(wide.name().slots(), wide.value().slots()));
            case PlannedStep.Group group -> group.by();
            case PlannedStep.ParentsFirst parents -> joined(parents.key(), parents.parent());
        };
    }

    private static List<Integer> joined(List<Integer> some, List<Integer> others) {
        return Stream.concat(some.stream(), others.stream()).toList();
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
            int slot = columns.size() + Plan.FACTS + i;
            if (read.contains(slot)) {
                SourceColumn column = columns.get(detected.get(i));
                Reading reading = column.reading();
                inputs.add(new Input(column.name(), detected.get(i), slot, reading.kind(), reading.parser()));
            }
        }
        return inputs;
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

    private void add(Placed<String> at, ProblemCode code, String sentence, String remedy) {
        problems.add(Problem.at(at.place(), code, sentence, remedy));
    }
}

package dev.nachlauf.core.example;

import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.formula.Translation;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobDefinition.Example;
import dev.nachlauf.core.job.JobDefinition.Expected;
import dev.nachlauf.core.job.JobDefinition.Turn;
import dev.nachlauf.core.plan.Described;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedWrite;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.step.Found;
import dev.nachlauf.core.step.MappedRows;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.step.WriteRow;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Runs the examples of a job. */
public final class ExampleCheck {
    private final JobDefinition job;
    private final Surroundings surroundings;
    private final List<SourceColumn> columns;
    private final Described described;

    private ExampleCheck(
            JobDefinition job, Surroundings surroundings, List<SourceColumn> columns, Described described) {
        this.job = job;
        this.surroundings = surroundings;
        this.columns = columns;
        this.described = described;
    }

    /** A problem for each example that does not come out as expected; each shows expected beside found. */
    public static List<Problem> check(
            JobDefinition job, Surroundings surroundings, List<SourceColumn> columns, Described described) {
        ExampleCheck check = new ExampleCheck(job, surroundings, columns, described);
        List<Problem> problems = new ArrayList<>();
        job.examples().forEach(example -> check.run(example, problems));
        return problems;
    }

    private void run(Example example, List<Problem> problems) {
        List<Problem> found = new ArrayList<>();
        Map<String, @Nullable Object> values = Parameters.resolve(job, example.parameters(), found);
        Surroundings given = new Surroundings(
                Parameters.fixed(job, values), surroundings.facts(), translations(example), surroundings.pieces());
        SourceRow row = row(example, found);
        Optional<Plan> plan =
                found.isEmpty() ? Planner.plan(job, given, columns, described, new ArrayList<>()) : Optional.empty();
        if (!found.isEmpty()) {
            found.forEach(problem -> problems.add(failed(
                    example,
                    problem.sentence(),
                    problem.code() == ProblemCode.PARAMETER_MISSING
                            ? "Give it under parameters: in the example."
                            : problem.remedy())));
        }
        plan.ifPresent(sound -> compare(example, sound, row, problems));
    }

    /** What the example translates comes first; other values are translated as always. */
    private Map<String, Translation> translations(Example example) {
        Map<String, Translation> all = new HashMap<>(surroundings.translations());
        example.crosswalks().forEach((name, entries) -> {
            Translation usual = surroundings.translations().get(name);
            all.put(name, (value, scope) -> {
                String given = value == null ? null : entries.get(value);
                return given != null ? given : usual == null ? null : usual.translate(value, scope);
            });
        });
        return all;
    }

    private SourceRow row(Example example, List<Problem> problems) {
        @Nullable Object[] cells = new Object[columns.size()];
        Shape shape = new Shape(columns.stream()
                .map(column -> new Field(column.name(), Kind.TEXT))
                .toList());
        example.given().forEach((name, text) -> {
            List<Integer> slots = shape.find(name, false);
            if (slots.size() == 1) {
                cells[slots.getFirst()] = text;
            } else if (!name.equals("source.sheet")) {
                problems.add(Problem.of(
                        ProblemCode.FIELD_UNKNOWN,
                        "The source has no field " + name + ".",
                        "Fields: " + String.join(", ", shape.names()) + "."));
            }
        });
        String sheet = example.given().getOrDefault("source.sheet", "");
        return new SourceRow(1, new Origin("example", sheet, 1, ""), cells);
    }

    private void compare(Example example, Plan plan, SourceRow row, List<Problem> problems) {
        Map<Finding, PlannedStep.Lookup> lookups = new HashMap<>();
        for (PlannedStep step : plan.steps()) {
            if (step instanceof PlannedStep.Lookup lookup) {
                lookups.put(lookup.finding(), lookup);
            }
        }
        List<TargetRow> targets = new ArrayList<>();
        try (MappedRows mapped = MappedRows.of(
                plan,
                new OneRow(row),
                (finding, keys) -> keys.stream()
                        .map(key -> found(example, finding, lookups.get(finding)))
                        .toList(),
                Path.of(System.getProperty("java.io.tmpdir")))) {
            for (TargetRow next = mapped.next(); next != null; next = mapped.next()) {
                targets.add(next);
            }
            Trial.mapLate(plan, mapped.mapper(), targets);
        } catch (CannotGoOn e) {
            problems.add(failed(example, e.problems().getFirst().sentence(), ""));
            return;
        }
        boolean fits = targets.stream()
                .anyMatch(target -> difference(example, plan, target).isEmpty());
        if (!fits) {
            problems.add(failed(
                    example,
                    "Expected: " + expected(example) + ". Found: "
                            + targets.stream()
                                    .map(target -> shown(example, plan, target))
                                    .collect(Collectors.joining("; "))
                            + ".",
                    "Correct the job or the example."));
        }
    }

    private static Found found(Example example, Finding finding, PlannedStep.@Nullable Lookup lookup) {
        Map<String, String> given = lookup == null ? null : example.lookups().get(lookup.name());
        if (given == null) {
            return Found.NOTHING;
        }
        List<@Nullable Object> values = new ArrayList<>();
        for (Field field : finding.fields()) {
            values.add(typed(field, given.get(field.name())));
        }
        return new Found(1, values.toArray());
    }

    private static @Nullable Object typed(Field field, @Nullable String text) {
        try {
            return text == null ? null : TextParser.of(field.kind(), null, null).parse(text);
        } catch (ValueProblem problem) {
            throw new CannotGoOn(problem.inField(field.name()));
        }
    }

    /** Why a row is not what was expected; empty where it is. */
    private static Optional<String> difference(Example example, Plan plan, TargetRow target) {
        return switch (example.expected()) {
            case Expected.Skipped ignored ->
                target.skipped() != null ? Optional.empty() : Optional.of("it is not skipped");
            case Expected.RejectedWith rejected ->
                target.problems().stream()
                                .anyMatch(problem -> problem.code().id().equals(rejected.code()))
                        ? Optional.empty()
                        : Optional.of("it is not rejected so");
            case Expected.Becomes becomes -> {
                WriteRow row = target.passed() ? taken(plan, becomes.write(), target) : null;
                yield row != null && differing(plan, becomes, row).isEmpty()
                        ? Optional.empty()
                        : Optional.of("it becomes something else");
            }
        };
    }

    private static @Nullable WriteRow taken(Plan plan, String write, TargetRow target) {
        int index = index(plan, write);
        if (index < 0) {
            return null;
        }
        // a row without its key is taken by the second one
        boolean second = target.write(index) == null && plan.writes().get(index).turn() == Turn.FIRST;
        return target.write(second ? index + 1 : index);
    }

    private static int index(Plan plan, String write) {
        for (int i = 0; i < plan.writes().size(); i++) {
            if (write.isEmpty()
                    ? plan.writes().get(i) == plan.main()
                    : plan.writes().get(i).name().equals(write)) {
                return i;
            }
        }
        return -1;
    }

    private static List<String> differing(Plan plan, Expected.Becomes becomes, WriteRow row) {
        PlannedWrite write = plan.writes().get(index(plan, becomes.write()));
        List<String> differing = new ArrayList<>();
        becomes.fields().forEach((field, wanted) -> {
            int index = write.fieldNames().indexOf(field);
            Object value = index < 0 ? null : row.values()[index];
            if (index < 0 || !same(value, wanted)) {
                differing.add(field);
            }
        });
        return differing;
    }

    private static boolean same(@Nullable Object found, @Nullable String wanted) {
        String text = Values.text(found == Mapper.LATER ? null : found);
        if (text == null || wanted == null) {
            return text == null && wanted == null;
        }
        if (found instanceof Number) {
            try {
                return Values.same(
                        found, TextParser.of(Kind.DECIMAL, null, null).parse(wanted));
            } catch (ValueProblem e) {
                return false;
            }
        }
        return text.equals(wanted);
    }

    private static String expected(Example example) {
        return switch (example.expected()) {
            case Expected.Skipped ignored -> "skipped";
            case Expected.RejectedWith rejected -> "rejected with " + rejected.code();
            case Expected.Becomes becomes ->
                becomes.fields().entrySet().stream()
                        .map(field -> field.getKey() + " = " + field.getValue())
                        .collect(Collectors.joining(", "));
        };
    }

    private static String shown(Example example, Plan plan, TargetRow target) {
        if (target.skipped() != null) {
            return "skipped, " + target.skipped();
        }
        if (target.rejected()) {
            return "rejected with "
                    + target.problems().stream()
                            .map(problem -> problem.code().id() + " (" + problem.sentence() + ")")
                            .collect(Collectors.joining(", "));
        }
        if (!(example.expected() instanceof Expected.Becomes becomes)) {
            return "passed";
        }
        WriteRow row = taken(plan, becomes.write(), target);
        if (row == null) {
            return "not taken by " + becomes.write();
        }
        PlannedWrite write = plan.writes().get(index(plan, becomes.write()));
        return becomes.fields().keySet().stream()
                .map(field -> field + " = "
                        + (write.fieldNames().contains(field)
                                ? Values.text(row.values()[write.fieldNames().indexOf(field)])
                                : "(not mapped)"))
                .collect(Collectors.joining(", "));
    }

    private static Problem failed(Example example, String sentence, String remedy) {
        return Problem.at(
                example.place(),
                ProblemCode.EXAMPLE_FAILED,
                "The example '" + example.name() + "' fails. " + sentence,
                remedy);
    }
}

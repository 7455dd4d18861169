package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.formula.Scope;
import dev.nachlauf.core.job.JobDefinition.Assignment;
import dev.nachlauf.core.job.JobDefinition.Write;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.Replacing;
import dev.nachlauf.core.plan.PlannedWrite.Output;
import dev.nachlauf.core.plan.PlannedWrite.Source;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Plans what becomes of records that the source no longer has. */
final class RemovalPlanner {
    private final Write write;
    private final Replacing replacing;
    private final RecordDescription target;
    private final Set<String> mapped;
    private final Map<String, Output> outputs = new HashMap<>();
    private final Scope.Surroundings surroundings;
    private final List<Problem> problems;
    private final List<FieldDescription> fields;

    /**
     * @param mapped the fields that the write's map names
     * @param outputs what it gives, as far as its lines are right
     */
    RemovalPlanner(
            Write write,
            Replacing replacing,
            RecordDescription target,
            Set<String> mapped,
            List<Output> outputs,
            Scope.Surroundings surroundings,
            List<Problem> problems) {
        this.write = write;
        this.replacing = replacing;
        this.target = target;
        this.mapped = mapped;
        outputs.forEach(output -> this.outputs.put(output.description().name(), output));
        this.surroundings = surroundings;
        this.problems = problems;
        this.fields = target.fields().stream()
                .filter(field -> !field.readOnly() || isKey(field.name()))
                .toList();
    }

    private boolean isKey(String field) {
        return write.key().stream().map(Placed::value).anyMatch(field::equals);
    }

    Removal planned() {
        replacing.within().forEach(this::requireMapped);
        return new Removal(
                fields,
                write.key().stream().map(Placed::value).toList(),
                replacing.scope().flatMap(this::scope),
                replacing.within().stream().map(Placed::value).toList(),
                replacing.deactivated().stream()
                        .flatMap(line -> set(line).stream())
                        .toList(),
                replacing.mayBeEmpty());
    }

    private Optional<Formula> scope(FormulaSource source) {
        Shape shape = new Shape(fields.stream()
                .map(field -> new Field(field.name(), field.kind()))
                .toList());
        Optional<Formula> formula = Formula.check(source, new Scope(shape, surroundings), Kind.BOOLEAN, problems);
        formula.ifPresent(sound -> sound.slots()
                .forEach(slot -> requireComputed(source, fields.get(slot).name())));
        return formula;
    }

    /** Whether a row lies within the scope must be known before it is written. */
    private void requireComputed(FormulaSource source, String field) {
        Output output = outputs.get(field);
        if (!mapped.contains(field)) {
            add(
                    source.place(),
                    "The scope asks for " + field
                            + ", which the map doesn't give; so it can't be told whether a row lies" + " within it.",
                    "Map " + field + ".");
        } else if (output != null && !(output.source() instanceof Source.Of)) {
            add(
                    source.place(),
                    "The scope asks for " + field + ", which is found only when a row is written.",
                    "Say within: [" + field + "] where the records of the same " + field + " are meant.");
        }
    }

    private void requireMapped(Placed<String> field) {
        if (!mapped.contains(field.value())) {
            boolean known = target.field(field.value()).isPresent();
            add(
                    field.place(),
                    known
                            ? "Records are replaced within " + field.value() + ", which the map doesn't give."
                            : target.name() + " has no field " + field.value() + ".",
                    known ? "Map " + field.value() + "." : NearestNames.suggestion(field.value(), mapped, ""));
        }
    }

    private Optional<Removal.Set> set(Assignment line) {
        String name = line.field().value();
        List<String> names = fields.stream().map(FieldDescription::name).toList();
        int place = names.indexOf(name);
        if (place < 0 || isKey(name)) {
            add(
                    line.field().place(),
                    place < 0
                            ? target.name() + " has no field " + name + " that can be written."
                            : "The key's field " + name + " stays as it is.",
                    NearestNames.suggestion(name, names, ""));
            return Optional.empty();
        }
        Kind kind = fields.get(place).kind();
        Scope nothing = new Scope(new Shape(List.of()), surroundings);
        return Formula.check(line.formula(), nothing, kind, problems)
                .flatMap(formula -> evaluated(formula, kind, place));
    }

    /** The formula looks at no row, so what it comes to is known now. */
    private Optional<Removal.Set> evaluated(Formula formula, Kind kind, int place) {
        try {
            Object value = formula.evaluator().evaluate(new Object[0]);
            Object held = value instanceof String text && text.isEmpty() ? null : value;
            return Optional.of(
                    new Removal.Set(place, held != null && kind == Kind.DECIMAL ? Values.decimal(held) : held));
        } catch (ValueProblem problem) {
            problems.add(Problem.at(formula.source().place(), problem.code(), problem.sentence(), ""));
            return Optional.empty();
        }
    }

    private void add(Place at, String sentence, String remedy) {
        problems.add(Problem.at(at, ProblemCode.REPLACE_UNFIT, sentence, remedy));
    }
}

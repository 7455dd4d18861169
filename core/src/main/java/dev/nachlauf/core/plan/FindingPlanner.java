package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.formula.Scope;
import dev.nachlauf.core.job.JobDefinition.Assignment;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.Step.Among;
import dev.nachlauf.core.plan.PlannedStep.FileField;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.PlannedStep.Key;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Plans how other records are found, for lookups and for references of a map. */
final class FindingPlanner {
    private FindingPlanner() {}

    /** A file's columns and the fields that the lookup makes of them, line by line. */
    static RecordDescription madeOf(
            Among.File file,
            RecordDescription columns,
            Scope.Surroundings surroundings,
            List<FileField> made,
            List<Problem> problems) {
        Map<String, FieldDescription> fields = new LinkedHashMap<>();
        columns.fields().forEach(field -> fields.put(field.name(), field));
        Shape shape = new Shape(columns.fields().stream()
                .map(field -> new Field(field.name(), field.kind()))
                .toList());
        for (Assignment line : file.sets()) {
            Optional<Formula> formula = Formula.check(line.formula(), new Scope(shape, surroundings), problems);
            Kind kind = formula.flatMap(Formula::kind).orElse(Kind.TEXT);
            String name = line.field().value();
            formula.ifPresent(sound -> made.add(new FileField(name, sound)));
            shape = shape.with(new Field(name, kind));
            fields.put(name, FieldDescription.plain(name, kind));
        }
        return new RecordDescription(columns.name(), false, List.copyOf(fields.values()), List.of(), List.of());
    }

    /** How a record is found; empty where something is wrong with it, which is said. */
    static Optional<Finding> finding(
            RowScope scope,
            Among among,
            RecordDescription records,
            List<Assignment> match,
            List<Placed<String>> bring,
            List<Problem> problems) {
        List<Key> keys = new ArrayList<>();
        boolean sound = true;
        for (Assignment line : match) {
            Optional<FieldDescription> field = known(records, line.field(), problems);
            Kind kind = field.map(FieldDescription::kind).orElse(Kind.TEXT);
            Optional<Formula> formula = scope.checkFor(line.formula(), kind, problems);
            sound &= field.isPresent() && formula.isPresent();
            if (sound) {
                Kind found = formula.get().kind().orElse(kind);
                if (found != kind && found != Kind.TEXT && !(found.isNumber() && kind.isNumber())) {
                    problems.add(Problem.at(
                            line.formula().place(),
                            ProblemCode.TYPE_MISMATCH,
                            "This is " + found.word() + ", but " + line.field().value() + " of " + records.name()
                                    + " is " + kind.word() + ".",
                            "cast(… as " + kind.word() + ") converts where that is meant."));
                }
                keys.add(new Key(line.field().value(), kind, formula.get(), found == Kind.TEXT && kind != Kind.TEXT));
            }
        }
        List<Field> wanted = bring.stream()
                .flatMap(field -> known(records, field, problems).stream())
                .map(field -> new Field(field.name(), field.kind()))
                .toList();
        sound &= wanted.size() == bring.size();
        return sound && !keys.isEmpty()
                ? Optional.of(new Finding(among, records.name(), keys, wanted))
                : Optional.empty();
    }

    private static Optional<FieldDescription> known(
            RecordDescription records, Placed<String> field, List<Problem> problems) {
        Optional<FieldDescription> found = records.field(field.value());
        if (found.isEmpty()) {
            List<String> names =
                    records.fields().stream().map(FieldDescription::name).toList();
            problems.add(Problem.at(
                    field.place(),
                    ProblemCode.TARGET_FIELD_UNKNOWN,
                    records.name() + " has no field " + field.value() + ".",
                    NearestNames.suggestion(field.value(), names, "Fields: " + String.join(", ", names) + ".")));
        }
        return found;
    }
}

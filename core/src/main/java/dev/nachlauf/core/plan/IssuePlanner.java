package dev.nachlauf.core.plan;

import dev.nachlauf.core.formula.Formula;
import dev.nachlauf.core.job.Issue;
import dev.nachlauf.core.job.JobDefinition.Mapping;
import dev.nachlauf.core.job.JobDefinition.Value;
import dev.nachlauf.core.job.JobDefinition.Write;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/**
 * Describes the rows of a file that is issued. No system demands anything of them: their fields are those of the map, each
 * of the kind that its formula has.
 */
final class IssuePlanner {
    private static final Set<String> AROUND = Set.of("count", "part", "parts", "run");

    private final RowScope scope;
    private final Write write;
    private final Issue issue;
    private final List<Problem> problems;

    IssuePlanner(RowScope scope, Write write, Issue issue, List<Problem> problems) {
        this.scope = scope;
        this.write = write;
        this.issue = issue;
        this.problems = problems;
    }

    /** @param file what the place takes */
    RecordDescription description(Described.IssuedFile file) {
        List<FieldDescription> fields = new ArrayList<>();
        for (Mapping line : write.map()) {
            fields.add(field(line.field().value(), kind(line), file));
        }
        if (write.sameNames()) {
            Set<String> mapped = new TreeSet<>(write.except());
            fields.forEach(field -> mapped.add(field.name()));
            scope.names().stream()
                    .filter(name -> !mapped.contains(name) && !name.startsWith("source."))
                    .filter(name -> file.columns().stream().allMatch(columns -> columns.contains(name)))
                    .map(name -> field(
                            name,
                            scope.find(name)
                                    .map(RowScope.Known::field)
                                    .map(Field::kind)
                                    .orElse(Kind.TEXT),
                            file))
                    .forEach(fields::add);
        }
        issue.text().ifPresent(text -> check(text, fields));
        file.columns().ifPresent(columns -> requireColumns(file.name(), columns));
        return new RecordDescription(file.name(), true, fields, List.of(), List.of());
    }

    /** What the head of a file doesn't have has no place in it. */
    private void requireColumns(String name, List<String> columns) {
        for (Mapping line : write.map()) {
            if (!columns.contains(line.field().value())) {
                problems.add(Problem.at(
                        line.field().place(),
                        ProblemCode.TARGET_FIELD_UNKNOWN,
                        name + " has no column " + line.field().value() + ".",
                        NearestNames.suggestion(
                                line.field().value(), columns, "Columns: " + String.join(", ", columns) + ".")));
            }
        }
    }

    private static FieldDescription field(String name, Kind kind, Described.IssuedFile file) {
        return file.demanded().apply(FieldDescription.plain(name, kind));
    }

    private Kind kind(Mapping line) {
        if (line.value() instanceof Value.Of of) {
            return scope.check(of.formula(), new ArrayList<>())
                    .flatMap(Formula::kind)
                    .orElse(Kind.TEXT);
        }
        problems.add(Problem.at(
                line.field().place(),
                ProblemCode.MAP_UNFIT,
                "find has no meaning where a file is issued: there are no records to be found.",
                "Bring the value with a lookup step."));
        return Kind.TEXT;
    }

    private void check(Issue.Text text, List<FieldDescription> fields) {
        List<String> names = fields.stream().map(FieldDescription::name).toList();
        unknown(text.each().names(), names, "The map has no field ");
        Set<String> around = new TreeSet<>(AROUND);
        around.addAll(scope.surroundings().parameters().keySet());
        unknown(text.head().names(), List.copyOf(around), "Head and foot know no ");
        unknown(text.foot().names(), List.copyOf(around), "Head and foot know no ");
    }

    private void unknown(Set<String> used, List<String> known, String sentence) {
        used.stream().filter(name -> !known.contains(name)).sorted().forEach(name -> {
            Placed<String> at = write.records();
            problems.add(Problem.at(
                    at.place(),
                    ProblemCode.OUTPUT_UNFIT,
                    sentence + name + ", but the text has a place for it.",
                    NearestNames.suggestion(name, known, "There are: " + String.join(", ", known) + ".")));
        });
    }
}

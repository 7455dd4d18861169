package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.PlannedStep.Finding;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;

/** Runs the steps of a plan over rows in memory. */
public final class Flows {
    private static final RecordDescription TARGET = new RecordDescription(
            "any",
            true,
            List.of(
                    FieldDescription.plain("a", Kind.TEXT),
                    FieldDescription.plain("b", Kind.TEXT),
                    FieldDescription.plain("c", Kind.DECIMAL),
                    FieldDescription.plain("d", Kind.TEXT)),
            List.of(new UniqueKey("a_key", List.of("a"), false)),
            List.of());

    private Flows() {}

    /** What comes out behind the last step; there are no lookups. */
    public static List<FlowRow> of(Plan plan, List<SourceRow> rows) {
        return of(plan, rows, Flows::nothing, Path.of("."), new ArrayList<>());
    }

    /**
     * A job of these steps.
     *
     * @param columns the source's, between semicolons; count is an integer, the others are text
     * @param map the fields a to d of the target, between commas
     */
    public static Plan plan(String columns, String steps, String map, List<Problem> problems) {
        String job = """
                nachlauf: 1
                job: any
                read:
                  connection: inbox
                  file: any.csv
                  fields: { %s }
                steps:
                %s
                write: { connection: register, records: any, action: upsert, key: [a], map: { %s } }
                """.formatted(
                        columns.contains("count") ? "count: { is: integer }" : "",
                        steps.indent(2).stripTrailing(),
                        map);
        List<SourceColumn> fields = Arrays.stream(columns.split(";"))
                .map(name -> SourceColumn.text(new SourceField(name, "field")))
                .toList();
        return JobFile.read(new SourceText("any.yaml", job), problems)
                .flatMap(read -> Planner.plan(
                        read,
                        Surroundings.NONE,
                        fields,
                        (connection, records, written, found) -> Optional.of(TARGET),
                        problems))
                .orElseThrow(() -> new AssertionError(problems));
    }

    /** What comes out behind the last step. */
    public static List<FlowRow> of(
            Plan plan, List<SourceRow> rows, RecordFinder finder, Path scratch, List<Problem> warnings) {
        return of(plan, reader(rows), finder, scratch, warnings);
    }

    /** What comes out behind the last step. */
    public static List<FlowRow> of(
            Plan plan, SourceReader reader, RecordFinder finder, Path scratch, List<Problem> warnings) {
        List<FlowRow> out = new ArrayList<>();
        try (RowFlow flow = Shaping.flow(plan, reader, finder, scratch, warnings::add)) {
            for (FlowRow row = flow.next(); row != null; row = flow.next()) {
                out.add(row);
            }
        }
        return out;
    }

    private static List<Found> nothing(Finding finding, List<Object[]> keys) {
        return keys.stream().map(key -> Found.NOTHING).toList();
    }

    /** A source of these rows. */
    static SourceReader reader(List<SourceRow> rows) {
        Iterator<SourceRow> left = rows.iterator();
        return new SourceReader() {
            @Override
            public List<SourceField> fields() {
                return List.of();
            }

            @Override
            public List<Detected> options() {
                return List.of();
            }

            @Override
            public SourceRow next() {
                return left.hasNext() ? left.next() : null;
            }

            @Override
            public void close() {
                // rows in memory need no closing
            }
        };
    }
}

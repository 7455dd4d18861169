package dev.nachlauf.core;

import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.plan.Described;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Planner;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FieldTraits;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/** A small job over huts, for tests of what comes after the plan. */
public final class Huts {
    public static final List<String> HEADER = List.of("Hut no.", "name", "beds", "price", "status");

    private static final String JOB = """
            nachlauf: 1
            job: huts
            read:
              connection: inbox
              file: huts.csv
              fields:
                beds: { is: integer }
                price: { is: decimal, locale: de }
            steps:
              - where: coalesce(status, 'open') <> 'closed'
              - set:
                  code: upper(trim("Hut no."))
              - rule: beds between 0 and 200
            write:
              connection: register
              records: hut
              action: upsert
              key: [hut_code]
              map:
                hut_code: code
                name: name
                beds: beds
                price: price
            """;

    private Huts() {}

    public static RecordDescription description() {
        return new RecordDescription(
                "hut",
                true,
                List.of(
                        FieldDescription.requiredField("hut_code", Kind.TEXT),
                        FieldDescription.requiredField("name", Kind.TEXT).atMost(40),
                        FieldDescription.plain("beds", Kind.INTEGER),
                        new FieldDescription(
                                "price",
                                Kind.DECIMAL,
                                "numeric(7,2)",
                                OptionalInt.empty(),
                                OptionalInt.of(7),
                                OptionalInt.of(2),
                                OptionalInt.empty(),
                                FieldTraits.FREE,
                                List.of(),
                                false)),
                List.of(new UniqueKey("hut_code_key", List.of("hut_code"), false)),
                List.of());
    }

    public static JobDefinition job() {
        return JobFile.read(new SourceText("huts.yaml", JOB), new ArrayList<>()).orElseThrow();
    }

    /** Columns of which nothing is known but their names. */
    public static List<SourceColumn> columns(List<String> names) {
        return names.stream()
                .map(name -> SourceColumn.text(new SourceField(name, "field " + (names.indexOf(name) + 1))))
                .toList();
    }

    public static Plan plan() {
        List<Problem> problems = new ArrayList<>();
        return Planner.plan(job(), Surroundings.NONE, columns(HEADER), described(), problems)
                .orElseThrow();
    }

    /** A look at huts, whatever is asked for. */
    public static Described described() {
        return (connection, records, written, problems) -> Optional.of(description());
    }
}

package dev.nachlauf.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Origin;
import dev.nachlauf.core.record.SourceColumn;
import dev.nachlauf.core.record.SourceField;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.step.Flows;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.TargetRow;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** A column whose kind was only detected is a value or a text, whichever the formula needs. */
class DetectedColumnsTest {
    private static final List<SourceColumn> COLUMNS = List.of(
            column("code", new Reading(Kind.INTEGER, null, null), ""),
            column("title", new Reading(Kind.DECIMAL, null, "de"), ""),
            column("beds", new Reading(Kind.INTEGER, null, null), ""),
            column("price", new Reading(Kind.DECIMAL, null, "de"), ""));

    private static SourceColumn column(String name, Reading reading, String question) {
        return new SourceColumn(new SourceField(name, ""), reading, question);
    }

    private static Optional<Plan> plan(List<SourceColumn> columns, String steps, String map, List<Problem> problems) {
        String job = """
                nachlauf: 1
                job: huts
                read: { connection: inbox, file: huts.csv }
                steps: %s
                write:
                  connection: register
                  records: hut
                  action: upsert
                  key: [hut_code]
                  map:
                %s
                """.formatted(steps, map.indent(4));
        return JobFile.read(new SourceText("huts.yaml", job), problems)
                .flatMap(read -> Planner.plan(read, Surroundings.NONE, columns, Huts.described(), problems));
    }

    private static TargetRow row(Plan plan, Object... cells) {
        return new Mapper(plan)
                .map(Flows.of(plan, List.of(new SourceRow(7, new Origin("huts.xlsx", "North", 9, ""), cells)))
                        .getFirst());
    }

    @Test
    void eachFormulaTakesColumnsAsItNeedsThem() {
        List<Problem> problems = new ArrayList<>();
        Plan plan = plan(
                        COLUMNS,
                        "[{ rule: beds + 1 < 100 }]",
                        "hut_code: upper(trim(code))\nname: title\nbeds: beds\nprice: price",
                        problems)
                .orElseThrow(() -> new AssertionError(problems));
        TargetRow row = row(plan, "0042", "1.250,50", "12", "1.250,50");
        assertThat(row.problems()).isEmpty();
        assertThat(row.write(0).values()).containsExactly("0042", "1.250,50", 12L, new BigDecimal("1250.50"));
    }

    @Test
    void whatContradictsTheDetectedKindIsARejectWithItsCell() {
        Plan plan = plan(COLUMNS, "[]", "hut_code: code\nname: title\nbeds: beds", new ArrayList<>())
                .orElseThrow();
        TargetRow row = row(plan, "1", "x", "many", null);
        assertThat(row.problems()).singleElement().satisfies(problem -> {
            assertThat(problem.code()).isEqualTo(ProblemCode.VALUE_MALFORMED);
            assertThat(problem.place().toString()).contains("huts.xlsx, North!9");
        });
    }

    @Test
    void whatCanBeReadInTwoWaysIsAskedForWhereItMatters() {
        List<SourceColumn> columns =
                List.of(COLUMNS.get(0), COLUMNS.get(1), column("beds", Reading.TEXT, "'1.250' can be 1250 or 1.250."));
        List<Problem> problems = new ArrayList<>();
        assertThat(plan(columns, "[]", "hut_code: code\nname: title\nbeds: beds", problems))
                .isEmpty();
        assertThat(problems).extracting(Problem::code).containsExactly(ProblemCode.SOURCE_AMBIGUOUS);
        assertThat(problems.getFirst().sentence()).contains("'1.250' can be 1250 or 1.250.");
        assertThat(plan(columns, "[]", "hut_code: code\nname: beds", new ArrayList<>()))
                .isPresent();
    }

    @Test
    void formulasKnowWhereTheirRowComesFrom() {
        Plan plan = plan(
                        COLUMNS, "[]", "hut_code: source.sheet\nname: source.file\nbeds: source.row", new ArrayList<>())
                .orElseThrow();
        assertThat(row(plan, null, null, null, null).write(0).values()).containsExactly("North", "huts.xlsx", 9L);
    }

    @Test
    void whatIsWrongIsSaidOnceAndAboutValues() {
        List<Problem> problems = new ArrayList<>();
        assertThat(plan(COLUMNS, "[{ rule: bed > 1 }]", "hut_code: code\nname: title", problems))
                .isEmpty();
        assertThat(problems).extracting(Problem::code).containsExactly(ProblemCode.FIELD_UNKNOWN);
    }
}

package dev.nachlauf.core.job;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.job.JobDefinition.Value;
import dev.nachlauf.core.job.JobDefinition.WriteRule;
import dev.nachlauf.core.plan.Parameters;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.SourceText;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Steps, maps, parameters and shared pieces as files say them. */
class StepFilesTest {
    private static Optional<JobDefinition> read(String steps, String more, List<Problem> problems) {
        String job = """
                nachlauf: 1
                job: any
                parameters:
                  season: { is: text, allowed: [summer, winter], default: summer }
                  huts: { is: text, list: true, required: false }
                  year: { is: integer, ask: Which year? }
                read: { connection: inbox, file: a.csv }
                steps:
                %s
                write:
                  connection: register
                  records: hut
                  action: upsert
                  key: [code]
                  map:
                    code: code
                    phone: { value: phone, write: if-empty, blank: leave }
                    old: { value: old, off: true }
                    warden_id: { find: warden, by: { licence_no: licence } }
                %s
                """.formatted(steps.indent(2).stripTrailing(), more);
        SharedPieces shared = new SharedPieces(Map.of(), Map.of("open", List.of()));
        return JobFile.read(new SourceText("any.yaml", job), names -> shared, problems);
    }

    @Test
    void aMapLineSaysMoreThanAFormula() {
        List<Problem> problems = new ArrayList<>();
        JobDefinition job = read("- include: open", "", problems).orElseThrow(() -> new AssertionError(problems));
        List<JobDefinition.Mapping> map = job.write().map();
        assertThat(map.get(1).rule()).isEqualTo(WriteRule.IF_EMPTY);
        assertThat(map.get(1).leaveBlank()).isTrue();
        assertThat(map.get(2).off()).isTrue();
        assertThat(map.get(3).value()).isInstanceOf(Value.Reference.class);
        assertThat(job.steps()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "- wher: a§KEY_UNKNOWN",
                "- include: shut§PIECE_UNKNOWN",
                "- duplicates: [a]\\n  keep: all§VALUE_WRONG_KIND",
                "- rule: a\\n  severity: loud§VALUE_WRONG_KIND",
                "- combine: [a]§KEY_MISSING",
                "- lookup: W-1\\n  connection: c\\n  records: r\\n  match: { a: a }\\n  bring: [b]§NAME_MALFORMED",
                "- group: order§KEY_MISSING",
                "- wide-to-long: [a]\\n  name: n\\n  value: v\\n  blnk: keep§KEY_UNKNOWN",
            })
    void whatIsWrongIsSaidAtItsPlace(String step, ProblemCode code) {
        List<Problem> problems = new ArrayList<>();
        assertThat(read(step.replace("\\n", "\n"), "", problems)).isEmpty();
        assertThat(problems).extracting(Problem::code).containsExactly(code);
    }

    @Test
    void anExampleSaysWhatBecomesOfItsRow() {
        List<Problem> problems = new ArrayList<>();
        assertThat(read("- where: a", "examples:\n  - given: { a: b }", problems))
                .isEmpty();
        assertThat(problems).extracting(Problem::code).containsExactly(ProblemCode.KEY_MISSING);
    }

    @Test
    void parametersAreHeldToTheirValues() {
        JobDefinition job = read("- where: a", "", new ArrayList<>()).orElseThrow();
        List<Problem> problems = new ArrayList<>();
        Map<String, Object> values = Parameters.resolve(job, Map.of("year", "2026", "huts", "H-1, H-2"), problems);
        assertThat(problems).isEmpty();
        assertThat(values).containsEntry("season", "summer").containsEntry("huts", List.of("H-1", "H-2"));
        Parameters.resolve(job, Map.of("season", "spring"), problems);
        assertThat(problems)
                .extracting(Problem::code)
                .containsExactlyInAnyOrder(ProblemCode.VALUE_NOT_ALLOWED, ProblemCode.PARAMETER_MISSING);
        assertThat(problems).extracting(Problem::sentence).contains("The parameter year has no value: Which year?");
    }

    @Test
    void piecesHaveParametersAndNoNamesOfFunctions() {
        List<Problem> problems = new ArrayList<>();
        PiecesFile.read(
                new SourceText("p.yaml", "nachlauf: 1\npieces: p\nformulas:\n  upper: { takes: { a: txt }, is: a }\n"),
                problems);
        assertThat(problems)
                .extracting(Problem::code)
                .containsExactly(ProblemCode.NAME_MALFORMED, ProblemCode.VALUE_WRONG_KIND);
    }
}

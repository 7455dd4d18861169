package dev.nachlauf.core.example;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.Huts;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.job.JobDefinition;
import dev.nachlauf.core.job.JobFile;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Examples inside a job: those that hold are quiet, the others show what was expected beside what was found. */
class ExampleCheckTest {
    private static final String JOB = """
            nachlauf: 1
            job: huts
            parameters:
              least: { is: integer, default: 0 }
            read: { connection: inbox, file: huts.csv }
            steps:
              - where: status is distinct from 'closed'
              - lookup: warden
                connection: register
                records: warden
                match: { licence_no: licence }
                bring: [warden_id]
                none: empty
              - rule: cast(beds as integer) >= :least
                message: Too few beds
            write:
              connection: register
              records: hut
              action: upsert
              key: [hut_code]
              map:
                hut_code: upper(trim(code))
                name: crosswalk('kind', status) || ' ' || coalesce(cast(warden.warden_id as text), 'nobody')
                beds: beds
                price: cast(beds as integer) * 1.50
            examples:
            """;

    private static final RecordDescription WARDEN = new RecordDescription(
            "warden",
            true,
            List.of(FieldDescription.plain("licence_no", Kind.TEXT), FieldDescription.plain("warden_id", Kind.INTEGER)),
            List.of(),
            List.of());

    private static final String TWO_WRITES = """
            nachlauf: 1
            job: huts
            parameters:
              season: { is: integer }
            read: { connection: inbox, file: huts.csv }
            write:
              - name: hut
                connection: register
                records: hut
                action: upsert
                key: [hut_code]
                map: { hut_code: upper(code), name: status || ' ' || cast(:season as text) }
              - name: twin
                connection: register
                records: hut
                action: upsert
                key: [hut_code]
                map: { hut_code: hut.hut_code || '-B', name: hut.name, beds: beds }
            examples:
            """;

    private static List<Problem> check(String example) {
        return check(JOB, example);
    }

    private static List<Problem> check(String text, String example) {
        List<Problem> problems = new ArrayList<>();
        JobDefinition job = JobFile.read(new SourceText("huts.yaml", text + example.indent(2)), problems)
                .orElseThrow(() -> new AssertionError(problems));
        Surroundings surroundings = new Surroundings(
                Map.of(),
                Map.of(),
                Map.of("kind", (value, scope) -> "serviced".equals(value) ? "Hut" : null),
                Map.of());
        return ExampleCheck.check(
                job,
                surroundings,
                Huts.columns(List.of("code", "status", "licence", "beds")),
                (connection, records, written, said) ->
                        Optional.of(records.value().equals("warden") ? WARDEN : Huts.description()));
    }

    private static String only(List<Problem> problems) {
        assertThat(problems).extracting(Problem::code).containsExactly(ProblemCode.EXAMPLE_FAILED);
        return problems.getFirst().sentence();
    }

    @Test
    void whatHoldsIsQuiet() {
        assertThat(check("""
                        - name: with a warden
                          given: { code: ' h-1', status: serviced, licence: W-1, beds: 20 }
                          lookups: { warden: { warden_id: 7 } }
                          becomes: { hut_code: H-1, name: Hut 7, beds: 20, price: 30 }
                        - name: found nowhere
                          given: { code: h-2, status: serviced, beds: 20 }
                          becomes: { name: Hut nobody }
                        - name: closed
                          given: { code: h-3, status: closed }
                          skipped: true
                        - name: too small
                          given: { code: h-4, status: serviced, beds: 20 }
                          parameters: { least: 30 }
                          rejected: rule-failed
                        """)).isEmpty();
    }

    @Test
    void expectedStandsBesideFound() {
        assertThat(only(check("""
                        - name: a wrong price
                          given: { code: h-1, status: serviced, beds: 20 }
                          becomes: { hut_code: H-1, price: 31 }
                        """)))
                .isEqualTo("The example 'a wrong price' fails. Expected: hut_code = H-1, price = 31."
                        + " Found: hut_code = H-1, price = 30.00.");
    }

    @Test
    void aRowThatPassesThoughItShouldNotIsShown() {
        assertThat(only(check("""
                        - name: too small
                          given: { code: h-1, status: serviced, beds: 20 }
                          rejected: rule-failed
                        """))).endsWith("Expected: rejected with rule-failed. Found: passed.");
    }

    @Test
    void aRowThatIsRejectedShowsWhy() {
        assertThat(only(check("""
                        - name: unknown kind
                          given: { code: h-1, status: castle, beds: 20 }
                          becomes: { hut_code: H-1 }
                        """))).contains("Expected: hut_code = H-1. Found: rejected with required-empty");
    }

    @Test
    void valuesOfACrosswalkCanBeGiven() {
        assertThat(check("""
                        - name: a new kind
                          given: { code: h-1, status: castle, beds: 20 }
                          crosswalks: { kind: { castle: Tower } }
                          becomes: { name: Tower nobody }
                        - name: the old one still counts
                          given: { code: h-1, status: serviced, beds: 20 }
                          crosswalks: { kind: { castle: Tower } }
                          becomes: { name: Hut nobody }
                        """)).isEmpty();
    }

    @Test
    void aWriteThatUsesAnEarlierOneCanBeExpected() {
        String example = """
                - name: the twin of a hut
                  given: { code: h-1, status: serviced, beds: 20 }
                  parameters: { season: 2026 }
                  write: twin
                  becomes: { hut_code: %s, name: serviced 2026, beds: 20 }
                """;
        assertThat(check(TWO_WRITES, example.formatted("H-1-B"))).isEmpty();
        assertThat(only(check(TWO_WRITES, example.formatted("H-2-B")))).contains("Found: hut_code = H-1-B,");
    }

    @Test
    void aParameterWithoutDefaultIsGivenInTheExample() {
        List<Problem> problems = check(TWO_WRITES, """
                - name: the twin of a hut
                  given: { code: h-1, status: serviced, beds: 20 }
                  write: twin
                  becomes: { hut_code: H-1-B }
                """);
        assertThat(only(problems)).contains("season");
        assertThat(problems.getFirst().remedy()).isEqualTo("Give it under parameters: in the example.");
    }

    @Test
    void aFieldThatTheSourceLacksIsSaid() {
        List<Problem> problems = check("""
                - name: misspelt
                  given: { cod: h-1 }
                  skipped: true
                """);
        assertThat(only(problems)).contains("The source has no field cod.");
        assertThat(((Place.InText) problems.getFirst().place()).position().line())
                .isEqualTo(27);
    }
}

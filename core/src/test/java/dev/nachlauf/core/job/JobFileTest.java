package dev.nachlauf.core.job;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.job.JobDefinition.Value;
import dev.nachlauf.core.job.Limits.Limit;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.problem.ProblemText;
import dev.nachlauf.core.text.Position;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class JobFileTest {
    private static final String JOB = """
            nachlauf: 1
            job: hut-list
            title: Spring list
            parameters:
              season: { is: integer, default: 2026 }
            read:
              connection: wardens-inbox
              file: list-${season}.csv
              format: { as: delimited, delimiter: ; }
              fields:
                price: { is: decimal, locale: de }
            steps:
              - where: status <> 'closed'   # closed huts stay out
              - set:
                  code: >-
                    upper(trim("Hut no."))
              - rule: beds between 0 and 200
                message: A hut has 0 to 200 beds
            write:
              - name: hut
                connection: register
                records: hut
                action: upsert
                key: [hut_code]
                map:
                  hut_code: code
                  season: :season
            limits: { rejected: 5% }
            """;

    private static String truths(String field) {
        return JOB.replace("price: { is: decimal, locale: de }", "open: { " + field + " }");
    }

    @Test
    void whomToTellIsOneEntryOrSeveral() {
        JobDefinition one = JobFile.read(
                        new SourceText("job.yaml", JOB + "tell: { by: 'mail-${season}' }\n"), new ArrayList<>())
                .orElseThrow();
        assertThat(one.tells()).singleElement().satisfies(tell -> {
            assertThat(tell.by().value()).isEqualTo("mail-${season}");
            assertThat(tell.to()).isEmpty();
            assertThat(tell.when()).containsExactlyInAnyOrder(Occasion.values());
        });
        JobDefinition several = JobFile.read(new SourceText("job.yaml", JOB + """
                                tell:
                                  - { by: mail, to: [a@union.example, b@union.example], when: [failed, held] }
                                  - { by: board, when: rejects }
                                """), new ArrayList<>())
                .orElseThrow();
        assertThat(several.tells().getFirst().to())
                .extracting(Placed::value)
                .containsExactly("a@union.example", "b@union.example");
        assertThat(several.tells().getFirst().when()).containsExactlyInAnyOrder(Occasion.FAILED, Occasion.HELD);
        assertThat(several.tells().getLast().when()).containsExactly(Occasion.REJECTS);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "tell: { to: [a@b.example] }|key-missing: The key by is missing in tell.",
                "tell: { by: mail, when: [failing] }|value-wrong-kind: Nobody is told when a run is failing.",
                "tell: { by: 'mail-${year}' }|parameter-unknown: The job has no parameter year.",
                "tell: { by: mail, cc: [a@b.example] }|key-unknown: The key cc has no meaning in tell."
            })
    void whomToTellIsCheckedWithTheJob(String tell, String expected) {
        assertThat(problems(JOB + tell + "\n"))
                .extracting(problem -> problem.code().id() + ": " + problem.sentence())
                .contains(expected);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "is: boolean, true: [ja, x], false: [nein, '']|ja,x/nein,",
                "is: boolean, true: yes, false: no|yes/no",
                "is: boolean, true: ['1'], false: ['0']|1/0",
                "is: boolean, true: 1, false: 0|1/0",
            })
    void truthsAreWordsOnBothSides(String field, String pattern) {
        assertThat(problems(truths(field))).isEmpty();
        JobDefinition job = JobFile.read(new SourceText("job.yaml", truths(field)), new ArrayList<>())
                .orElseThrow();
        assertThat(job.read().fields().getFirst().reading().pattern()).isEqualTo(pattern);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "is: boolean, true: [ja]",
                "is: text, true: [ja], false: [nein]",
                "is: boolean, true: [ja], false: [JA]",
                "is: boolean, true: ['a,b'], false: [nein]",
                "is: boolean, pattern: ja/nein",
            })
    void truthsThatCantBeToldApartAreRefused(String field) {
        assertThat(problems(truths(field)))
                .singleElement()
                .satisfies(problem -> assertThat(problem.code()).isEqualTo(ProblemCode.VALUE_WRONG_KIND));
    }

    private static List<Problem> problems(String text) {
        List<Problem> problems = new ArrayList<>();
        JobFile.read(new SourceText("job.yaml", text), problems);
        return problems;
    }

    @Test
    void readsAWholeJob() {
        List<Problem> problems = new ArrayList<>();
        JobDefinition job =
                JobFile.read(new SourceText("job.yaml", JOB), problems).orElseThrow();
        assertThat(problems).isEmpty();
        assertThat(job.name()).isEqualTo("hut-list");
        assertThat(job.parameters().getFirst().defaultValue()).isEqualTo(2026L);
        assertThat(job.read().format().options().get("delimiter").value()).isEqualTo(";");
        assertThat(job.read().fields().getFirst().kind()).isEqualTo(Kind.DECIMAL);
        assertThat(job.steps()).hasSize(3);
        assertThat(((Step.Where) job.steps().getFirst()).formula().text()).isEqualTo("status <> 'closed'");
        assertThat(job.write().key()).extracting(Placed::value).containsExactly("hut_code");
        assertThat(job.write().map())
                .extracting(line -> ((Value.Of) line.value()).formula().text())
                .containsExactly("code", ":season");
        assertThat(job.limits().rejected()).contains(new Limit.Percent(5));
    }

    @Test
    void aFormulaKnowsItsPlaceInsideAFoldedBlock() {
        JobDefinition job =
                JobFile.read(new SourceText("job.yaml", JOB), new ArrayList<>()).orElseThrow();
        Step.Set set = (Step.Set) job.steps().get(1);
        Place.InText trim =
                (Place.InText) set.assignments().getFirst().formula().place(new dev.nachlauf.core.text.Span(6, 10));
        assertThat(trim.source().slice(trim.span())).isEqualTo("trim");
        assertThat(trim.position()).isEqualTo(new Position(16, 15));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "nachlauf: 1§nachlauf: 2§FORMAT_UNKNOWN§1§11",
                "job: hut-list§job: Hut List§NAME_MALFORMED§2§6",
                "title: Spring list§titel: Spring list§KEY_UNKNOWN§3§1",
                "is: integer§is: number§VALUE_WRONG_KIND§5§17",
                "default: 2026§default: soon§VALUE_WRONG_KIND§5§35",
                "list-${season}§list-${saison}§PARAMETER_UNKNOWN§8§9",
                "locale: de§locale: xx§VALUE_WRONG_KIND§11§35",
                "locale: de§pattern: dd§VALUE_WRONG_KIND§11§36",
                "- rule:§- rules:§KEY_UNKNOWN§17§5",
                "action: upsert§action: overwrite§VALUE_WRONG_KIND§23§13",
                "rejected: 5%§rejected: few§VALUE_WRONG_KIND§28§21",
                "job: hut-list§job: [a]§VALUE_WRONG_KIND§2§6",
                "title: Spring list§job: again§NAME_TAKEN§3§1",
            })
    void saysWhatIsWrongAndWhere(String old, String wrong, ProblemCode code, int line, int column) {
        Problem problem = problems(JOB.replace(old, wrong)).getFirst();
        assertThat(problem.code()).isEqualTo(code);
        assertThat(((Place.InText) problem.place()).position()).isEqualTo(new Position(line, column));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "code: \"Hut no.\" || 'x'§(\"Hut no.\" || 'x')",
                "code: 'closed'§('closed')",
                "code: \"Hut no.\"§(\"Hut no.\")",
                "code: case when a = 'x: y' then 1 end§\"case when a = 'x: y' then 1 end\"",
                "code: coalesce(a, 'no #1')§\"coalesce(a, 'no #1')\"",
            })
    void detectsTheTrapsOfYaml(String line, String remedy) {
        String text = JOB.replace("hut_code: code", line.replace("code:", "hut_code:"));
        Problem problem = problems(text).getFirst();
        assertThat(problem.code()).isEqualTo(ProblemCode.YAML_TRAP);
        assertThat(problem.remedy()).contains(remedy);
        assertThat(((Place.InText) problem.place()).position().line()).isEqualTo(26);
    }

    @Test
    void knowsWhichPiecesAreIncludedEvenOfAJobWithErrors() {
        String broken = "nachlauf: 1\njob: a\npieces:\n  - huts\n  - tills\nsteps:\n  - include: rules\n";
        assertThat(JobFile.included(new SourceText("a.yaml", broken))).containsExactly("huts", "tills");
        assertThat(JobFile.included(new SourceText("a.yaml", "job: a\npieces: [huts]\n")))
                .containsExactly("huts");
        assertThat(JobFile.included(new SourceText("a.yaml", "job: a\nsteps:\n  - huts\n")))
                .isEmpty();
        assertThat(JobFile.included(new SourceText("a.yaml", "pieces: ["))).isEmpty();
    }

    @Test
    void detectsAParameterThatBreaksAFlowMap() {
        String flow = "nachlauf: 1\njob: huts\nread: { connection: inbox, file: list-${season}.xlsx }\n";
        Problem problem = problems(flow).getFirst();
        assertThat(problem.code()).isEqualTo(ProblemCode.YAML_TRAP);
        assertThat(problem.remedy()).isEqualTo("Put quotes around it: \"list-${season}.xlsx\"");
    }

    @Test
    void detectsACommaThatCutsAFlowMap() {
        String flow = JOB.replace(
                "map:\n      hut_code: code\n      season: :season", "map: { hut_code: coalesce(code, 'x') }");
        Problem problem = problems(flow).getFirst();
        assertThat(problem.code()).isEqualTo(ProblemCode.YAML_TRAP);
        assertThat(problem.remedy()).contains("\"coalesce(code, 'x')\"");
        String unquoted = flow.replace("'x'", "season");
        assertThat(problems(unquoted).getFirst().code()).isEqualTo(ProblemCode.YAML_TRAP);
        assertThat(problems(unquoted).getFirst().remedy()).contains("\"coalesce(code, season)\"");
    }

    @Test
    void tabsAreExplained() {
        Problem problem = problems("nachlauf: 1\njob: x\nread:\n\tfile: a\n").getFirst();
        assertThat(problem.code()).isEqualTo(ProblemCode.YAML_MALFORMED);
        assertThat(problem.remedy()).contains("spaces");
    }

    @Test
    void anEmptyOrHugeDocumentIsRefused() {
        assertThat(problems("")).extracting(Problem::code).containsExactly(ProblemCode.YAML_MALFORMED);
        assertThat(problems("a: " + "x".repeat(1_000_000)))
                .extracting(Problem::code)
                .containsExactly(ProblemCode.YAML_MALFORMED);
        assertThat(problems("a: ".repeat(3) + "[".repeat(2_000))).isNotEmpty();
    }

    @Test
    void aConnectionNamesItsSecretsByReference() {
        List<Problem> problems = new ArrayList<>();
        ConnectionDefinition connection = ConnectionFile.read(new SourceText("register.yaml", """
                                nachlauf: 1
                                connection: register
                                type: postgresql
                                settings:
                                  database: register
                                  password: { env: NACHLAUF_SECRET_REGISTER }
                                """), problems)
                .orElseThrow();
        assertThat(problems).isEmpty();
        assertThat(connection.settings())
                .containsEntry("password", "env:NACHLAUF_SECRET_REGISTER")
                .containsEntry("database", "register");
    }

    /** A slip of the hand anywhere in a job is answered with its place. */
    @Test
    void anyTextIsAnswered() {
        Random random = new Random(5);
        String slips = "'\":#{}[](),|>-&*!%@`\\\t\n aé𝄞0";
        int wrong = 0;
        for (int i = 0; i < 5_000; i++) {
            StringBuilder text = new StringBuilder(JOB);
            for (int slip = random.nextInt(3); slip >= 0; slip--) {
                int at = random.nextInt(text.length());
                int symbol = slips.offsetByCodePoints(0, random.nextInt(slips.codePointCount(0, slips.length())));
                switch (random.nextInt(3)) {
                    case 0 -> text.insert(at, Character.toString(slips.codePointAt(symbol)));
                    case 1 -> text.deleteCharAt(at);
                    default -> text.insert(at, text.substring(at, Math.min(text.length(), at + random.nextInt(40))));
                }
            }
            List<Problem> problems = new ArrayList<>();
            boolean read = JobFile.read(new SourceText("huts.yaml", text.toString()), problems)
                    .isPresent();
            assertThat(read).as(text.toString()).isEqualTo(problems.isEmpty());
            for (Problem problem : problems) {
                assertThat(ProblemText.render(problem)).as(text.toString()).startsWith("huts.yaml, line ");
            }
            wrong += read ? 0 : 1;
        }
        assertThat(wrong).as("many slips are faults").isGreaterThan(2_000);
    }

    @Test
    void aParameterWithoutValueFillsInNothing() {
        Map<String, Object> parameters = new TreeMap<>();
        parameters.put("season", 2026L);
        parameters.put("part", null);
        assertThat(JobDefinition.fill("huts-${season}${part}.csv", parameters)).isEqualTo("huts-2026.csv");
    }
}

package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** What a job leaves open is asked for when it is started: of a person; a script is told what is missing. */
class ParametersTest {
    private static final Installation NACHLAUF = Installation.shared();

    @BeforeAll
    static void save() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register, "CREATE TABLE season_list (code text PRIMARY KEY, season integer, kind text)");
        NACHLAUF.write("inbox/season-2026.csv", "code\nH-001\nH-002\n");
        NACHLAUF.write("seasons.yaml", """
                nachlauf: 1
                job: seasons
                parameters:
                  season: { is: integer, ask: "Which season, as a year?" }
                  kind: { is: text, allowed: [summer, winter] }
                  note: { is: text, required: false }
                read:
                  connection: wardens-inbox
                  file: season-${season}.csv
                  take: always
                write:
                  connection: register
                  records: season_list
                  action: upsert
                  key: [code]
                  map:
                    code: code
                    season: :season
                    kind: :kind
                """);
        assertThat(NACHLAUF.client(
                                "job",
                                "save",
                                NACHLAUF.home.resolve("seasons.yaml").toString())
                        .status())
                .isZero();
    }

    @Test
    void aPersonIsAskedForWhatIsMissingOnly() {
        Result run = NACHLAUF.clientAnswered("2026\n", "run", "start", "seasons", "--set", "kind=winter", "--follow");
        assertThat(run.status()).isZero();
        assertThat(run.err())
                .contains("season – Which season, as a year? (integer):")
                .doesNotContain("kind (", "note");
        assertThat(NACHLAUF.count("SELECT string_agg(code || season || kind, ' ' ORDER BY code) FROM season_list"))
                .isEqualTo("H-0012026winter H-0022026winter");
    }

    @Test
    void aWrongAnswerIsRefusedWithTheChoices() {
        Result run = NACHLAUF.clientAnswered("2026\nautumn\n", "run", "start", "seasons");
        assertThat(run.status()).isEqualTo(1);
        assertThat(run.err()).contains("kind (text; one of summer, winter):", "[value-not-allowed]", "summer, winter.");
    }

    @Test
    void aScriptIsToldEverythingThatIsMissing() {
        Result run = NACHLAUF.client("run", "start", "seasons");
        assertThat(run.status()).isEqualTo(1);
        assertThat(run.err())
                .contains("[parameter-missing]", "--set season=…", "Which season, as a year?", "--set kind=…");
    }

    @Test
    void theNetworkInterfaceTellsWhatARunIsToBeTold() {
        String questions = NACHLAUF.get("/jobs/seasons/questions").body();
        assertThat(questions)
                .contains("\"question\":\"Which season, as a year?\"", "\"allowed\":[\"summer\",\"winter\"]");
    }
}

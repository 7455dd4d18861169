package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The demo's job three times, through the client, with exact figures beside counts in the register. */
class ThreeLoadsTest {
    private static final Path FILES = Installation.TOP.resolve("demo-data/files");
    private static final Installation NACHLAUF = Installation.own("three_loads");
    private static Result first;
    private static Result again;
    private static Result corrected;
    private static String afterFirst;

    @BeforeAll
    static void loadThreeTimes() {
        NACHLAUF.loadDemo();
        first = load("spring-list-2026.xlsx");
        afterFirst = NACHLAUF.count("SELECT count(*) || ' ' || sum(beds) FROM hut");
        again = load("spring-list-2026.xlsx");
        corrected = load("spring-list-2026-corrected.xlsx");
    }

    @AfterAll
    static void stop() {
        NACHLAUF.close();
    }

    private static Result load(String file) {
        return NACHLAUF.client(
                "--output",
                "json",
                "run",
                "start",
                "hut-list",
                "--follow",
                "--file",
                FILES.resolve(file).toString());
    }

    private static List<Long> figures(Result run) {
        JsonNode balance = run.json().get("balance");
        assertThat(balance.get("balanced").asBoolean()).isTrue();
        return List.of(
                        "read",
                        "skipped",
                        "rejected",
                        "passed",
                        "unreached",
                        "taken",
                        "inserted",
                        "updated",
                        "unchanged",
                        "refused")
                .stream()
                .map(name -> balance.get(name).asLong())
                .toList();
    }

    @Test
    void theFirstLoadInsertsAndRejects() {
        assertThat(figures(first)).containsExactly(250L, 6L, 9L, 235L, 0L, 235L, 234L, 0L, 0L, 1L);
        assertThat(first.status()).isEqualTo(3);
        assertThat(afterFirst).isEqualTo("234 12265");
    }

    @Test
    void theSameAgainChangesNothing() {
        assertThat(figures(again)).containsExactly(250L, 6L, 9L, 235L, 0L, 235L, 0L, 0L, 234L, 1L);
        assertThat(again.status()).isEqualTo(3);
    }

    @Test
    void theCorrectedListInsertsAndUpdatesWhatDiffers() {
        assertThat(figures(corrected)).containsExactly(249L, 6L, 0L, 243L, 0L, 243L, 9L, 20L, 214L, 0L);
        assertThat(corrected.status()).isZero();
        assertThat(corrected.json().get("changedFields").toString()).isEqualTo("{\"beds\":20,\"price\":20}");
        assertThat(NACHLAUF.count("SELECT count(*) FROM hut")).isEqualTo("243");
    }

    @Test
    void theLedgerHoldsEveryRowOnceWithOldAndNewValues() {
        String id = corrected.json().get("id").asString();
        List<JsonNode> all = NACHLAUF.client("--output", "json", "run", "ledger", id, "--limit", "1000")
                .lines();
        assertThat(all).extracting(row -> row.get("row").asLong()).hasSize(249).doesNotHaveDuplicates();
        List<JsonNode> updated = NACHLAUF.client("--output", "json", "run", "ledger", id, "--outcome", "updated")
                .lines();
        assertThat(updated).hasSize(20);
        JsonNode row = updated.stream()
                .filter(one -> one.get("key").get(0).asString().equals("H-006"))
                .findFirst()
                .orElseThrow();
        assertThat(row.get("source").asString()).isEqualTo("spring-list-2026-corrected.xlsx, Weissmoos");
        assertThat(row.get("changes").toString())
                .isEqualTo(
                        "[{\"field\":\"beds\",\"before\":\"17\",\"after\":\"21\"},{\"field\":\"price\",\"before\":\"35.50\",\"after\":\"35.80\"}]");
        assertThat(NACHLAUF.count("SELECT beds || ' ' || price FROM hut WHERE hut_code = 'H-006'"))
                .isEqualTo("21 35.80");
    }

    @Test
    void rejectsAreNamedWithPlaceAndReason() {
        String id = first.json().get("id").asString();
        List<JsonNode> rejects = NACHLAUF.client("--output", "json", "rejects", "list", "--run", id)
                .lines();
        assertThat(rejects)
                .extracting(reject -> reject.get("place").asString() + " "
                        + reject.get("problems").get(0).get("code").asString())
                .containsExactly(
                        "spring-list-2026.xlsx, Seekamm, row 33 rule-failed",
                        "spring-list-2026.xlsx, Larch Valley, row 33 value-malformed",
                        "spring-list-2026.xlsx, Southern Ridge, row 33 too-long",
                        "spring-list-2026.xlsx, Nebelgrat, row 33 check-failed",
                        "spring-list-2026.xlsx, Ostwand, row 33 key-empty",
                        "spring-list-2026.xlsx, Tannried, row 33 value-malformed",
                        "spring-list-2026.xlsx, Weissmoos, row 33 cell-error",
                        "spring-list-2026.xlsx, Hohe Leiten, row 33 key-repeated",
                        "spring-list-2026.xlsx, Hohe Leiten, row 34 key-repeated",
                        "spring-list-2026.xlsx, Xarkogel, row 3 no-translation");
        assertThat(rejects.get(1).get("problems").get(0).get("at").asString())
                .isEqualTo("spring-list-2026.xlsx, Larch Valley!G33");
        String table = NACHLAUF.client("rejects", "list", "--run", id).out();
        assertThat(table).contains("Seekamm, row 33", "beds: A hut has 0 to 200 beds. [rule-failed]");
    }

    @Test
    void rejectsAreExportedWithTheirRawRows() {
        String id = first.json().get("id").asString();
        Path out = NACHLAUF.home.resolve("rejects.csv");
        assertThat(NACHLAUF.client("rejects", "export", "--run", id, "--out", out.toString())
                        .status())
                .isZero();
        List<String> lines = Installation.read(out).lines().toList();
        assertThat(lines)
                .as("ten rejects, one of which has three more reasons, each on a line of its own")
                .hasSize(13);
        assertThat(lines.getFirst()).startsWith("row,place,codes,reasons,Hut no.,name,category");
        assertThat(lines.get(1)).contains("rule-failed").contains("H-241,Steinkuppe Hut,simple,1.840,2400,no");
    }

    @Test
    void tablesAreForPeopleAndListsForScriptsAreJsonLines() {
        String table = NACHLAUF.client("run", "show", first.json().get("id").asString())
                .out();
        assertThat(table)
                .contains(
                        "read 250 = 235 passed + 6 skipped + 9 rejected",
                        "  reading 250 in = 247 out + 3 rejected",
                        "  where 247 in = 241 out + 6 skipped",
                        "hut 235 taken = 234 inserted + 1 rejected");
        assertThat(NACHLAUF.client("run", "list").out()).contains("run  job", "hut-list");
        assertThat(NACHLAUF.client("--output", "json", "run", "list", "--limit", "2")
                        .lines())
                .hasSize(2);
        assertThat(NACHLAUF.client("job", "list").out()).contains("hut-list");
        assertThat(NACHLAUF.client("job", "show", "hut-list").out()).contains("key: [hut_code]");
        assertThat(NACHLAUF.client("--output", "json", "job", "history", "hut-list")
                        .lines())
                .isNotEmpty();
    }

    @Test
    void aSystemIsLookedAtBeforeMapping() {
        assertThat(NACHLAUF.client("connection", "test", "register").out())
                .startsWith("reachable: PostgreSQL")
                .contains("can write");
        assertThat(NACHLAUF.client("connection", "list").out()).contains("register", "wardens-inbox");
        assertThat(NACHLAUF.client("connection", "records", "register").out())
                .contains("hut", "Mountain huts of the union");
        Result fields = NACHLAUF.client("connection", "fields", "register", "hut");
        assertThat(fields.out())
                .containsPattern("hut_code +text +character varying\\(8\\) +key · required")
                .containsPattern("region_code .*refers to region")
                .containsPattern("bed_class .*read only: the database computes it");
        assertThat(fields.err()).contains("hut_code");
    }

    @Test
    void aSecretIsNamedButNeverShown() {
        Result shown = NACHLAUF.client("--output", "json", "connection", "show", "register");
        assertThat(shown.out()).contains("NACHLAUF_SECRET_REGISTER").doesNotContain("s3cret");
        assertThat(Installation.read(NACHLAUF.log())).doesNotContain("s3cret");
    }
}

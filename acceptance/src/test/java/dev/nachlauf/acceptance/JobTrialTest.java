package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** {@code job try}: what a job makes of the first rows, through the client, with nothing written. */
class JobTrialTest {
    private static final Installation NACHLAUF = Installation.shared();
    private static final String LIST =
            Installation.TOP.resolve("demo-data/files/spring-list-2026.xlsx").toString();
    private static final String HUTS =
            Installation.TOP.resolve("demo-data/jobs/hut-list.yaml").toString();

    @BeforeAll
    static void table() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register,
                "CREATE TABLE IF NOT EXISTS locker (locker_no text PRIMARY KEY, owner text NOT NULL, code text)");
        NACHLAUF.write("inbox/lockers.csv", "no;owner;code\nL-1;Ada;4711\nL-2;;4712\nL-3;Cleo;4713\n");
    }

    private static List<JsonNode> rows(Result tried) {
        return tried.json().get("rows").valueStream().toList();
    }

    @Test
    void rowsAreShownFieldByFieldAndNothingIsWritten() {
        String before = NACHLAUF.count("SELECT count(*) FROM hut");
        Result tried = NACHLAUF.client("job", "try", HUTS, "--file", LIST, "--rows", "31");
        assertThat(tried.status()).as("row 31 is rejected").isEqualTo(3);
        assertThat(tried.out())
                .contains("hut-list.yaml on the first rows of spring-list-2026.xlsx; nothing was written")
                .contains("hut_code (key)  H-008")
                .contains("row 31 is rejected: beds (spring-list-2026.xlsx, Seekamm!E33): A hut has 0 to 200 beds.");
        assertThat(NACHLAUF.count("SELECT count(*) FROM hut")).isEqualTo(before);
    }

    @Test
    void aFileCanComeThroughAPipe() {
        Result checked = NACHLAUF.clientReading(Installation.read(Path.of(HUTS)), "job", "check", "-");
        assertThat(checked.status()).as(checked.err()).isZero();
        assertThat(checked.out()).contains("sound");
    }

    @Test
    void onlyTheRejectedOnesAreShownWhereThatIsWanted() {
        Result tried = NACHLAUF.client("job", "try", HUTS, "--file", LIST, "--rows", "100", "--rejected");
        assertThat(tried.out().lines().filter(line -> line.startsWith("hut  ")))
                .singleElement()
                .satisfies(head -> assertThat(head).containsPattern("row 31 +row 62 +row 93$"));
        assertThat(tried.out()).containsPattern("opens +2026-06-01 +✗");
    }

    @Test
    void scriptsGetOneDocument() {
        Result tried = NACHLAUF.client("--output", "json", "job", "try", HUTS, "--file", LIST, "--rows", "2");
        assertThat(tried.status()).isZero();
        assertThat(rows(tried)).hasSize(2);
        JsonNode first = rows(tried).getFirst();
        assertThat(first.get("place").asString()).isEqualTo("spring-list-2026.xlsx, Seekamm, row 3");
        assertThat(first.get("outcome").asString()).isEqualTo("passed");
        JsonNode fields = first.get("records").get(0).get("fields");
        assertThat(fields.valueStream()
                        .filter(field -> field.get("key").asBoolean())
                        .map(field -> field.get("value").asString()))
                .containsExactly("H-008");
        assertThat(fields.valueStream()
                        .filter(field -> field.get("name").asString().equals("price"))
                        .map(field -> field.get("value").asString()))
                .as("with the decimals of the target")
                .containsExactly("38.50");
    }

    @Test
    void allFieldsOfTheTargetAreListedWithWhatTheyGet() {
        Result all = NACHLAUF.client("--output", "json", "job", "fields", HUTS, "--file", LIST);
        assertThat(all.status()).isZero();
        assertThat(all.lines())
                .extracting(line -> line.get("field").get("name").asString())
                .startsWith("hut_code", "name", "region_code")
                .endsWith("hut_id", "winter_class", "bed_class");
        assertThat(all.lines().getFirst().get("formula").asString()).isEqualTo("hut_code");
        assertThat(all.lines().getFirst().get("key").asBoolean()).isTrue();
        assertThat(fields("--only", "unmapped")).containsExactly("hut_id", "winter_class");
        assertThat(fields("--only", "required")).containsExactly("hut_code", "name", "region_code", "beds");
        assertThat(fields("--find", "crosswalk(")).containsExactly("region_code", "category");
        assertThat(fields("--only", "unmapped", "--find", "crosswalk(")).isEmpty();
        Result table = NACHLAUF.client("job", "fields", HUTS, "--file", LIST, "--find", "hut_code");
        assertThat(table.out()).containsPattern("hut +hut_code +\\S.* found by · key.* hut_code");
        assertThat(NACHLAUF.client("job", "fields", HUTS, "--only", "some").status())
                .isEqualTo(2);
    }

    private static List<String> fields(String... chosen) {
        List<String> call = new ArrayList<>(List.of("--output", "json", "job", "fields", HUTS, "--file", LIST));
        call.addAll(List.of(chosen));
        return NACHLAUF.client(call.toArray(String[]::new)).lines().stream()
                .map(line -> line.get("field").get("name").asString())
                .toList();
    }

    @Test
    void aJobWithErrorsIsToldThemAll() {
        String document = Installation.read(Installation.TOP.resolve("demo-data/jobs/hut-list.yaml"))
                .replace("trim(name)", "trimm(name)")
                .replace("height_m: height", "height_n: height");
        Result tried = NACHLAUF.client(
                "job", "try", NACHLAUF.write("broken-list.yaml", document).toString(), "--file", LIST);
        assertThat(tried.status()).isEqualTo(1);
        assertThat(tried.out())
                .contains("Did you mean trim?", "[function-unknown]")
                .contains("Did you mean height_m?", "[target-field-unknown]");
    }

    @Test
    void valuesOfSensitiveFieldsAndOfTheirColumnsAreNotShown() {
        NACHLAUF.write("lockers-connection.yaml", """
                nachlauf: 1
                connection: lockers
                type: postgresql
                settings:
                  port: %d
                  database: %s
                  user: tester
                  password: { env: NACHLAUF_SECRET_REGISTER }
                marks:
                  locker: { code: { sensitive: true } }
                """.formatted(NACHLAUF.cluster.port(), NACHLAUF.register));
        assertThat(NACHLAUF.client(
                                "connection",
                                "save",
                                NACHLAUF.home.resolve("lockers-connection.yaml").toString())
                        .status())
                .isZero();
        String job = NACHLAUF.write("lockers.yaml", """
                nachlauf: 1
                job: lockers
                read: { connection: wardens-inbox, file: lockers.csv }
                write:
                  connection: lockers
                  records: locker
                  action: upsert
                  key: [locker_no]
                  map: { locker_no: no, owner: owner, code: code }
                """).toString();
        Result tried = NACHLAUF.client("--output", "json", "job", "try", job);
        assertThat(tried.status()).isEqualTo(3);
        assertThat(tried.out()).doesNotContain("4711").doesNotContain("4712");
        assertThat(rows(tried).getFirst().get("cells").get(2).asString()).isEqualTo("•••");
        JsonNode second = rows(tried).get(1);
        assertThat(second.get("outcome").asString()).isEqualTo("rejected");
        assertThat(second.get("problems").get(0).get("code").asString()).isEqualTo("required-empty");
    }
}

package dev.nachlauf.acceptance;

import static dev.nachlauf.acceptance.Patience.patiently;
import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A run followed over the network, a run that is stopped, parameters, and secrets from files. */
class RunControlTest {
    private static final Installation NACHLAUF = Installation.shared();
    private static final String JOB = """
            nachlauf: 1
            job: cairns
            parameters:
              season: { is: integer }
              region: { is: text, default: SEE }
            read: { connection: wardens-inbox, file: cairns.csv }
            write:
              connection: register
              records: cairn
              action: upsert
              key: [cairn_no, region]
              map: { cairn_no: cairn_no, region: ":region", height: height, season: ":season" }
            """;

    @BeforeAll
    static void saveJob() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register,
                "CREATE TABLE cairn (cairn_no text, region text, height integer, season integer, PRIMARY KEY (cairn_no, region))");
        assertThat(NACHLAUF.client(
                                "job",
                                "save",
                                NACHLAUF.write("cairns.yaml", JOB).toString())
                        .status())
                .isZero();
    }

    private static String upload(int rows) {
        StringBuilder csv = new StringBuilder("cairn_no;height\n");
        for (int i = 0; i < rows; i++) {
            csv.append('C').append(i).append(';').append(i % 3000).append('\n');
        }
        String answer = NACHLAUF.post("/files?name=cairns.csv", csv.toString(), "application/octet-stream")
                .body();
        return Installation.JSON.readTree(answer).get("hash").asString();
    }

    private static JsonNode start(String hash, String parameters) {
        String body = "{\"job\":\"cairns\",\"file\":\"%s\",\"fileName\":\"cairns.csv\",\"parameters\":%s}"
                .formatted(hash, parameters);
        return Installation.JSON.readTree(
                NACHLAUF.post("/runs", body, "application/json").body());
    }

    /** The event stream of a run, read to its end. */
    private static String events(long id) {
        return NACHLAUF.get("/runs/" + id + "/events", "Accept", "text/event-stream")
                .body();
    }

    @Test
    void progressIsAStreamOfEventsThatEndsWithTheRun() {
        long id = start(upload(20_000), "{\"season\":\"2026\"}").get("id").asLong();
        String events = events(id);
        assertThat(events).contains("event:end").doesNotEndWith("event:progress");
        String last = events.lines()
                .filter(line -> line.startsWith("data:"))
                .reduce((a, b) -> b)
                .orElseThrow()
                .substring("data:".length());
        JsonNode run = Installation.JSON.readTree(last);
        assertThat(run.get("state").asString()).isEqualTo("finished");
        assertThat(run.get("balance").get("taken").asLong()).isEqualTo(20_000);
        assertThat(events(id)).startsWith("event:end");
    }

    @Test
    void aStoppedRunAccountsForWhatItNeverCameTo() {
        long id = start(upload(400_000), "{\"season\":\"2027\",\"region\":\"LAR\"}")
                .get("id")
                .asLong();
        patiently().until(() -> show(id).get("phase").asString().equals("writing"));
        assertThat(NACHLAUF.post("/runs/" + id + "/stop", "", "application/json")
                        .statusCode())
                .isEqualTo(200);
        events(id);
        JsonNode run = show(id);
        assertThat(run.get("state").asString()).isEqualTo("stopped");
        JsonNode balance = run.get("balance");
        assertThat(balance.get("balanced").asBoolean()).isTrue();
        assertThat(balance.get("read").asLong()).isEqualTo(400_000);
        assertThat(balance.get("unreached").asLong()).isPositive();
        assertThat(balance.get("unreached").asLong() + balance.get("inserted").asLong())
                .isEqualTo(400_000);
        assertThat(NACHLAUF.count("SELECT count(*) FROM cairn WHERE region = 'LAR'"))
                .isEqualTo(balance.get("inserted").asString());
    }

    private static JsonNode show(long id) {
        return Installation.JSON.readTree(NACHLAUF.get("/runs/" + id).body());
    }

    /** While rows are still being counted, nobody knows how many there are: the run accounts for those it came to. */
    @Test
    void aStopRightAfterTheStartIsAccountedForAsWell() {
        long id = start(upload(400_000), "{\"season\":\"2028\",\"region\":\"BOR\"}")
                .get("id")
                .asLong();
        assertThat(NACHLAUF.post("/runs/" + id + "/stop", "", "application/json")
                        .statusCode())
                .isEqualTo(200);
        events(id);
        JsonNode run = show(id);
        assertThat(run.get("state").asString()).isEqualTo("stopped");
        JsonNode balance = run.get("balance");
        assertThat(balance.get("balanced").asBoolean()).isTrue();
        assertThat(balance.get("unreached").asLong() + balance.get("inserted").asLong())
                .isEqualTo(balance.get("read").asLong());
        assertThat(NACHLAUF.count("SELECT count(*) FROM cairn WHERE region = 'BOR'"))
                .isEqualTo(balance.get("inserted").asString());
    }

    @Test
    void parametersAreCheckedBeforeAnythingIsRead() {
        String hash = upload(3);
        assertThat(start(hash, "{}").get("code").asString()).isEqualTo("parameter-missing");
        assertThat(start(hash, "{\"season\":\"soon\"}").get("code").asString()).isEqualTo("value-malformed");
        assertThat(start(hash, "{\"season\":\"1\",\"regoin\":\"x\"}")
                        .get("code")
                        .asString())
                .isEqualTo("parameter-unknown");
        String file = NACHLAUF.write("few.csv", "cairn_no;height\nX1;5\n").toString();
        Result run = NACHLAUF.client(
                "run", "start", "cairns", "--follow", "--set", "season=2028", "--set", "region=OST", "--file", file);
        assertThat(run.status()).as(run.err()).isZero();
        assertThat(NACHLAUF.count("SELECT season || region FROM cairn WHERE cairn_no = 'X1'"))
                .isEqualTo("2028OST");
    }

    @Test
    void aSecretsFileMustBeOursAlone() throws IOException {
        Path secret = Files.createDirectories(NACHLAUF.state.resolve("secrets")).resolve("by-file");
        Files.writeString(secret, "from-a-file\n");
        String connection = """
                nachlauf: 1
                connection: by-file
                type: postgresql
                settings: { port: %d, database: %s, user: tester, password: { file: %s } }
                """.formatted(NACHLAUF.cluster.port(), NACHLAUF.register, secret.getFileName());
        NACHLAUF.client(
                "connection", "save", NACHLAUF.write("by-file.yaml", connection).toString());
        Files.setPosixFilePermissions(secret, PosixFilePermissions.fromString("rw-r--r--"));
        assertThat(NACHLAUF.client("connection", "test", "by-file").out()).contains("secret-unsafe", "mode to 600");
        Files.setPosixFilePermissions(secret, PosixFilePermissions.fromString("rw-------"));
        assertThat(NACHLAUF.client("connection", "test", "by-file").status()).isZero();
        Files.delete(secret);
        assertThat(NACHLAUF.client("connection", "test", "by-file").out()).contains("secret-missing");
        assertThat(Installation.read(NACHLAUF.log())).doesNotContain("from-a-file");
    }
}

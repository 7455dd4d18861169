package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Limits that hold a run, what people decide then, and keys repeated far apart. */
class RunDecisionsTest {
    private static final Installation NACHLAUF = Installation.shared();
    private static final String JOB = """
            nachlauf: 1
            job: %s
            read: { connection: wardens-inbox, file: none.csv }
            write:
              connection: register
              records: trail_mark
              action: upsert
              key: [mark_no]
              map: { mark_no: mark_no, height: height }
            %s""";

    @BeforeAll
    static void createTable() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register, "CREATE TABLE trail_mark (mark_no text PRIMARY KEY, height integer)");
        save("marks", "");
        save("marks-limited", "limits: { rejected: 2 }\n");
    }

    private static void save(String job, String limits) {
        String file = NACHLAUF.write(job + ".yaml", JOB.formatted(job, limits)).toString();
        assertThat(NACHLAUF.client("job", "save", file).status()).isZero();
    }

    private static String marks(String prefix, int good, int bad) {
        StringBuilder csv = new StringBuilder("mark_no;height\n");
        IntStream.rangeClosed(1, good)
                .forEach(n -> csv.append(prefix)
                        .append(n)
                        .append(";")
                        .append(n % 3000)
                        .append('\n'));
        IntStream.rangeClosed(1, bad)
                .forEach(n -> csv.append(prefix).append("bad").append(n).append(";high\n"));
        return csv.toString();
    }

    private static Result start(String job, String csv) {
        String file = NACHLAUF.write(job + ".csv", csv).toString();
        return NACHLAUF.client("--output", "json", "run", "start", job, "--follow", "--file", file);
    }

    @Test
    void aCrossedLimitHoldsUntilSomebodyReleasesOrDiscards() {
        Result held = start("marks-limited", marks("L", 10, 3));
        assertThat(held.status()).isEqualTo(1);
        JsonNode run = held.json();
        String id = run.get("id").asString();
        assertThat(run.get("state").asString()).isEqualTo("held");
        assertThat(run.get("reasons").get(0).get("code").asString()).isEqualTo("limit-crossed");
        assertThat(NACHLAUF.count("SELECT count(*) FROM trail_mark WHERE mark_no LIKE 'L%'"))
                .isEqualTo("0");

        Result blocked = start("marks-limited", marks("L", 10, 0));
        assertThat(blocked.status()).isEqualTo(1);
        assertThat(blocked.err()).contains("run-blocked", "is held");

        Result plain = NACHLAUF.client("run", "release", id);
        assertThat(plain.status()).isEqualTo(1);
        assertThat(plain.err()).contains("--beyond-limit");
        assertThat(NACHLAUF.client("run", "release", id, "--beyond-limit").status())
                .isZero();
        Result finished = NACHLAUF.client("--output", "json", "run", "follow", id);
        assertThat(finished.status()).isEqualTo(3);
        assertThat(finished.json().get("balance").get("inserted").asLong()).isEqualTo(10);
        assertThat(NACHLAUF.count("SELECT count(*) FROM trail_mark WHERE mark_no LIKE 'L%'"))
                .isEqualTo("10");

        assertThat(NACHLAUF.client("--output", "json", "run", "log", id).lines())
                .extracting(line -> line.get("text").asString().replaceAll("^Is held: .*", "Is held."))
                .containsExactly(
                        "local asks for it: version 1 of marks-limited.",
                        "Is taken up by a service.",
                        "Reads marks-limited.csv.",
                        "Is held.",
                        "local releases it, whatever limit it crosses.",
                        "Is taken up by a service.",
                        "Finished: 13 rows read.");

        String second =
                start("marks-limited", marks("M", 10, 3)).json().get("id").asString();
        assertThat(NACHLAUF.client("--output", "json", "run", "discard", second)
                        .json()
                        .get("state")
                        .asString())
                .isEqualTo("discarded");
        assertThat(NACHLAUF.client("run", "stop", second).err()).contains("run-state");
        JsonNode balance = NACHLAUF.client("--output", "json", "run", "show", second)
                .json()
                .get("balance");
        assertThat(balance.get("read").asLong()).isEqualTo(13);
        assertThat(balance.get("unreached").asLong()).isEqualTo(13);
    }

    @Test
    void aKeyRepeatedFiftyThousandRowsLaterRejectsBoth() {
        Result run = start("marks", marks("K", 60_000, 0) + "K9000;1\n");
        assertThat(run.status()).isEqualTo(3);
        assertThat(run.json().get("balance").get("inserted").asLong()).isEqualTo(59_999);
        List<JsonNode> rejects = NACHLAUF.client(
                        "--output",
                        "json",
                        "rejects",
                        "list",
                        "--run",
                        run.json().get("id").asString())
                .lines();
        assertThat(rejects).extracting(reject -> reject.get("row").asLong()).containsExactlyInAnyOrder(9_000L, 60_001L);
        assertThat(rejects.getFirst().get("problems").get(0).get("sentence").asString())
                .contains("K9000");
        assertThat(NACHLAUF.count("SELECT count(*) FROM trail_mark WHERE mark_no LIKE 'K%'"))
                .isEqualTo("59999");
    }

    @Test
    void largeLedgersPageWithACursor() {
        String id = start("marks", marks("P", 25_000, 0)).json().get("id").asString();
        List<JsonNode> rows = NACHLAUF.client("--output", "json", "run", "ledger", id, "--limit", "30000")
                .lines();
        assertThat(rows)
                .extracting(row -> row.get("row").asLong())
                .hasSize(25_000)
                .doesNotHaveDuplicates();
        assertThat(NACHLAUF.get("/runs/" + id + "/ledger?cursor=nonsense").statusCode())
                .isEqualTo(400);
        assertThat(NACHLAUF.get("/runs/" + id + "/ledger?outcome=lost").body()).contains("request-malformed");
    }
}

package dev.nachlauf.acceptance.torment;

import static dev.nachlauf.acceptance.Patience.patiently;
import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.acceptance.Cellar;
import dev.nachlauf.acceptance.Installation;
import dev.nachlauf.acceptance.Result;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * kill -9 at exactly the points that matter: the run goes on by itself, with exact balance and outcomes. Each run has a job
 * and a register of its own; two of them write to two databases, and to MariaDB. The service is one for all, and each kill meets several runs, for its starts take longest.
 */
@Order(1) // takes longest
class CrashTest {
    private static final PrivateCluster CLUSTER = PrivateCluster.start();
    private static final int STAYS = 1_500;
    private static final int OLD = 500;
    private static final int BOTTLES = 220;
    /** Every hundredth stay names a hut that isn't. */
    private static final int LOST = STAYS / 100;
    /** Of those, the ones that are there already: all of them have an odd number. */
    private static final int LOST_OLD = OLD / 100;

    private static final Installation NACHLAUF =
            new Installation(CLUSTER, "crashes", Map.of("NACHLAUF_BATCH_ROWS", "50", "NACHLAUF_HEARTBEAT", "400ms"));

    private static final String EVERY_POINT = "every-point";
    private static final String LOOKED_UP = "looked-up";
    private static final String CHANGED = "changed";
    private static final String DATABASE = "database";
    private static final String CELLAR_JOB = "cellar";

    private static final Shutters SHUTTERS = new Shutters(NACHLAUF);
    private static final Cellar CELLAR = new Cellar();

    /** The runs by their jobs. */
    private static final Map<String, String> RUNS = new HashMap<>();

    /** What a client was told while the service had no database. */
    private static Result withoutDatabase;

    private static final String JOB = """
            nachlauf: 1
            job: NAME
            read: { connection: wardens-inbox, file: none.csv }
            write:
              connection: NAME
              records: stay
              action: upsert
              key: [stay_no]
              map: { stay_no: stay_no, hut_code: hut, nights: nights }
            """;

    /** Each attempt gets a little further than the one before, where there are several, within the same batch. */
    @BeforeAll
    static void killAgainAndAgain() {
        startAndAwait(
                List.of(
                        EVERY_POINT + "/before-ledger:2",
                        LOOKED_UP + "/between-ledger-and-commit:2",
                        CHANGED + "/between-ledger-and-commit:1",
                        CELLAR_JOB + "/between-ledger-and-commit:1",
                        Shutters.POINT),
                () -> {
                    NACHLAUF.connect();
                    run(EVERY_POINT, JOB);
                    run(CHANGED, JOB);
                    run(LOOKED_UP, JOB.replace("write:\n", """
                            steps:
                              - duplicates: [stay_no]
                                keep: first
                              - lookup: known
                                connection: NAME
                                records: hut
                                match: { code: hut }
                                bring: [code]
                            write:
                            """).replace("hut_code: hut", "hut_code: known.code"));
                    CELLAR.furnish(NACHLAUF);
                    startCellar();
                    SHUTTERS.start();
                });
        NACHLAUF.kill();
        SHUTTERS.meddle();
        CLUSTER.execute(register(LOOKED_UP), "INSERT INTO hut VALUES ('H777')");
        CLUSTER.execute(register(CHANGED), "ALTER TABLE stay ALTER COLUMN nights TYPE smallint");
        startAndAwait(
                List.of(EVERY_POINT + "/between-ledger-and-commit:2", DATABASE + "/between-ledger-and-commit:3"),
                () -> {
                    SHUTTERS.awaitEnd();
                    followed(CELLAR_JOB);
                    run(DATABASE, JOB);
                });
        // both the service's records and the registers are gone in the middle of a batch
        CLUSTER.kill();
        withoutDatabase = NACHLAUF.client("run", "list");
        NACHLAUF.kill();
        CLUSTER.startAgain();
        startAndAwait(List.of(EVERY_POINT + "/after-commit:2"), () -> {});
        NACHLAUF.kill();
        NACHLAUF.start("");
    }

    /** Starts the service, and waits until it stands still at all these points. */
    private static void startAndAwait(List<String> points, Runnable meanwhile) {
        NACHLAUF.start(String.join(",", points));
        meanwhile.run();
        points.forEach(NACHLAUF::awaitPause);
    }

    @AfterAll
    static void stop() {
        NACHLAUF.close();
        CELLAR.close();
        CLUSTER.close();
    }

    private static void run(String name, String job) {
        makeRegister(name);
        start(name, job);
    }

    private static void makeRegister(String name) {
        String register = register(name);
        CLUSTER.createDatabase(register);
        CLUSTER.execute(register, """
                CREATE TABLE hut (code text PRIMARY KEY);
                INSERT INTO hut SELECT 'H' || n FROM generate_series(0, 99) n;
                CREATE TABLE stay (id bigint GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY, stay_no text NOT NULL UNIQUE,
                    hut_code text NOT NULL REFERENCES hut, nights integer);
                INSERT INTO stay (stay_no, hut_code, nights)
                    SELECT 'S' || n, 'H' || n % 100, CASE WHEN n % 2 = 0 THEN n % 14 ELSE 99 END FROM generate_series(1, 500) n;
                """);
    }

    /** Starts a job over stays, of which some are there already and every hundredth names a hut that isn't. */
    private static void start(String name, String job) {
        NACHLAUF.save("connection", name, """
                nachlauf: 1
                connection: %s
                type: postgresql
                settings: { port: %d, database: %s, user: %s }
                """.formatted(name, CLUSTER.port(), register(name), PrivateCluster.ADMIN));
        NACHLAUF.save("job", name, job.replace("NAME", name));
        StringBuilder csv = new StringBuilder("stay_no;hut;nights\n");
        IntStream.rangeClosed(1, STAYS)
                .forEach(n -> csv.append("S%d;H%d;%d\n".formatted(n, n % 100 == 99 ? 777 : n % 100, n % 14)));
        RUNS.put(name, NACHLAUF.startRun(name, csv.toString()));
    }

    /** In a database of another make; row 70 is more than the cellar takes, L-2 is there. */
    private static void startCellar() {
        StringBuilder csv = new StringBuilder("label;hut;bottles\n");
        IntStream.rangeClosed(1, BOTTLES)
                .forEach(n -> csv.append("L-%d;H-%d;%d\n".formatted(n, n % 2 + 1, n == 70 ? 900 : n % 400)));
        RUNS.put(CELLAR_JOB, NACHLAUF.startRun(CELLAR_JOB, csv.toString()));
    }

    private static String register(String name) {
        return "register_" + name.replace('-', '_');
    }

    private static String count(String name, String rows) {
        return CLUSTER.query(register(name), "SELECT count(*) FROM " + rows);
    }

    private static JsonNode followed(String name) {
        return NACHLAUF.client("--output", "json", "run", "follow", RUNS.get(name))
                .json();
    }

    private static List<JsonNode> rejects(String name) {
        Result rejects = NACHLAUF.client("--output", "json", "rejects", "list", "--run", RUNS.get(name));
        assertThat(rejects.status()).as(rejects.err()).isZero();
        return rejects.lines();
    }

    private static void verify(String name) {
        JsonNode run = followed(name);
        assertThat(run.get("state").asString()).as(run.toString()).isEqualTo("finished");
        JsonNode balance = run.get("balance");
        assertThat(balance.get("balanced").asBoolean()).isTrue();
        assertThat(balance.get("read").asLong()).isEqualTo(STAYS);
        assertThat(balance.get("refused").asLong()).isEqualTo(LOST);
        assertThat(balance.get("inserted").asLong()).isEqualTo(STAYS - OLD - (LOST - LOST_OLD));
        assertThat(balance.get("updated").asLong()).isEqualTo(OLD / 2 - LOST_OLD);
        assertThat(balance.get("unchanged").asLong()).isEqualTo(OLD / 2);
        assertThat(count(name, "stay")).isEqualTo(String.valueOf(STAYS - (LOST - LOST_OLD)));
        assertThat(count(name, "stay WHERE nights = 99")).isEqualTo(String.valueOf(LOST_OLD));
        List<JsonNode> rows = NACHLAUF.client("--output", "json", "run", "ledger", RUNS.get(name), "--limit", "100000")
                .lines();
        assertThat(rows)
                .extracting(row -> row.get("row").asLong())
                .hasSize(STAYS)
                .doesNotHaveDuplicates();
        assertThat(rejects(name))
                .extracting(reject -> reject.get("row").asLong())
                .hasSize(LOST)
                .doesNotHaveDuplicates();
    }

    @Test
    void aRunThatIsKilledAtEveryPointOfABatchGoesOnByItself() {
        verify(EVERY_POINT);
    }

    /** What the steps made of the rows is kept: a hut that appears while the service is down is not found later. */
    @Test
    void aRunThatLookedRecordsUpGoesOnWithWhatItFound() {
        JsonNode run = followed(LOOKED_UP);
        assertThat(run.get("state").asString()).as(run.toString()).isEqualTo("finished");
        JsonNode balance = run.get("balance");
        assertThat(balance.get("balanced").asBoolean()).isTrue();
        assertThat(balance.get("rejected").asLong()).isEqualTo(LOST);
        assertThat(balance.get("inserted").asLong()).isEqualTo(STAYS - OLD - (LOST - LOST_OLD));
        assertThat(count(LOOKED_UP, "stay")).isEqualTo(String.valueOf(STAYS - (LOST - LOST_OLD)));
        assertThat(count(LOOKED_UP, "stay WHERE hut_code = 'H777'")).isEqualTo("0");
        assertThat(rejects(LOOKED_UP))
                .extracting(reject -> reject.get("problems").get(0).get("code").asString())
                .hasSize(LOST)
                .containsOnly("lookup-none");
    }

    @Test
    void aRunGoesOnByItselfAfterTheDatabaseWasKilled() {
        assertThat(withoutDatabase.status()).isEqualTo(1);
        assertThat(withoutDatabase.err()).contains("can't reach its own database");
        verify(DATABASE);
    }

    @Test
    void aRunStopsWhereTheTargetIsNoLongerWhatItWas() {
        JsonNode run = followed(CHANGED);
        assertThat(run.get("state").asString()).isEqualTo("failed");
        assertThat(run.get("reasons").get(0).get("code").asString()).isEqualTo("target-changed");
        JsonNode balance = run.get("balance");
        assertThat(balance.get("balanced").asBoolean()).isTrue();
        assertThat(balance.get("read").asLong()).isEqualTo(STAYS);
        // what the ledger says was written is what is there: the batch in doubt was settled first
        assertThat(CLUSTER.query(register(CHANGED), "SELECT count(*) - " + OLD + " FROM stay"))
                .isEqualTo(balance.get("inserted").asString());
    }

    @Test
    void aBatchThatOneDatabaseHasAndTheOtherHasNotIsBroughtToItsEnd() {
        SHUTTERS.verify();
    }

    @Test
    void aRunOfAnotherKindOfDatabaseGoesOnAndWritesNothingTwice() {
        JsonNode run = followed(CELLAR_JOB);
        assertThat(run.get("state").asString()).as(run.toString()).isEqualTo("finished");
        JsonNode balance = run.get("balance");
        assertThat(balance.get("balanced").asBoolean()).isTrue();
        assertThat(balance.get("inserted").asLong()).isEqualTo(BOTTLES - 2);
        assertThat(balance.get("updated").asLong()).isEqualTo(1);
        assertThat(NACHLAUF.client("rejects", "list", "--run", RUNS.get(CELLAR_JOB))
                        .out())
                .contains("cellar.csv, line 71");
        assertThat(Installation.read(NACHLAUF.log()))
                .as("the database's own words may hold values of rows")
                .doesNotContain("stock.bottles");
        assertThat(CELLAR.query("SELECT count(*) FROM stock")).isEqualTo(String.valueOf(BOTTLES - 1));
    }

    @Test
    void theServiceSurvivesItsDatabaseGoingAwayAndComingBack() throws SQLException {
        makeRegister("away");
        try (Connection other = CLUSTER.connect(register("away"));
                Statement statement = other.createStatement()) {
            other.setAutoCommit(false);
            // the run gets as far as its first new stay in this hut, and no further
            statement.execute("SELECT FROM hut WHERE code = 'H60' FOR UPDATE");
            start("away", JOB);
            patiently()
                    .until(() -> !CLUSTER.query(
                                    NACHLAUF.serviceDatabase,
                                    "SELECT count(*) FROM ledger_chunk WHERE run_id = " + RUNS.get("away"))
                            .equals("0"));
            CLUSTER.kill();
        }
        CompletableFuture<JsonNode> follower = CompletableFuture.supplyAsync(() -> followed("away"));
        CLUSTER.startAgain();
        assertThat(follower.join().get("state").asString()).isEqualTo("finished");
        verify("away");
    }
}

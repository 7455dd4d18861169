package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.contract.mariadb.PrivateMariadb;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Map;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A job that writes to MariaDB: the real service, in every way of going back, and killed in the middle of a batch. */
class MariadbTest {
    private static final PrivateCluster CLUSTER = PrivateCluster.start();
    private static final PrivateMariadb SERVER = PrivateMariadb.start();
    private static final String JOB = """
            nachlauf: 1
            job: cellar
            read: { connection: wardens-inbox, file: none.csv, fields: { bottles: { is: integer } } }
            steps:
              - lookup: hut
                connection: cellar
                records: hut
                match: { hut_code: hut }
                bring: [id]
            write:
              connection: cellar
              records: stock
              action: upsert
              key: [label]
              map: { label: label, hut_id: hut.id, bottles: bottles }
            """;
    private static final String ROWS = "label;hut;bottles\nL-1;H-1;8\nl-2;H-2;9\nL-3;H-9;1\nL-4;H-1;600\n";

    @AfterAll
    static void stop() {
        SERVER.close();
        CLUSTER.close();
    }

    /** With a database of its name. */
    private static void furnish(Installation nachlauf, String name) {
        SERVER.createDatabase(name);
        SERVER.execute(
                name,
                "CREATE TABLE hut (id bigint AUTO_INCREMENT PRIMARY KEY, hut_code varchar(8) NOT NULL UNIQUE)",
                "INSERT INTO hut (hut_code) VALUES ('H-1'), ('H-2')",
                "CREATE TABLE stock (id bigint AUTO_INCREMENT PRIMARY KEY, label varchar(20) NOT NULL UNIQUE, hut_id bigint,"
                        + " bottles int CHECK (bottles < 500), FOREIGN KEY (hut_id) REFERENCES hut (id))",
                "INSERT INTO stock (label, hut_id, bottles) VALUES ('L-2', 1, 4)");
        nachlauf.connect();
        keep(nachlauf.state.resolve("secrets/cellar"), PrivateMariadb.PASSWORD);
        save(nachlauf, "connection", "cellar.yaml", """
                nachlauf: 1
                connection: cellar
                type: mariadb
                settings:
                  port: %d
                  database: %s
                  user: %s
                  password: { file: cellar }
                """.formatted(SERVER.port(), name, PrivateMariadb.ACCOUNT));
        save(nachlauf, "job", "cellar.yaml", JOB);
    }

    private static void keep(Path secret, String value) {
        try {
            Files.createDirectories(secret.getParent());
            Files.createFile(
                    secret, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            Files.writeString(secret, value);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static void save(Installation nachlauf, String group, String name, String document) {
        Result saved =
                nachlauf.client(group, "save", nachlauf.write(name, document).toString());
        assertThat(saved.status()).as(saved.err()).isZero();
    }

    private static JsonNode run(Installation nachlauf, String... arguments) {
        String[] all = new String[arguments.length + 2];
        all[0] = "--output";
        all[1] = "json";
        System.arraycopy(arguments, 0, all, 2, arguments.length);
        Result result = nachlauf.client(all);
        JsonNode run = result.json();
        assertThat(run.get("balance").get("balanced").asBoolean())
                .as(result.err())
                .isTrue();
        return run;
    }

    private static String stock(String database) {
        return SERVER.query(
                database,
                "SELECT group_concat(label, ' ', hut_id, ' ', bottles ORDER BY label SEPARATOR '; ') FROM stock");
    }

    @Test
    void whatIsHeldIsReleasedComparedAndTakenBack() {
        try (Installation nachlauf = Installation.own("held")) {
            furnish(nachlauf, "held");
            assertThat(nachlauf.client("connection", "test", "cellar").out()).contains("MariaDB");
            String file = nachlauf.write("cellar.csv", ROWS).toString();
            JsonNode dry = run(nachlauf, "run", "start", "cellar", "--file", file, "--dry-run", "--follow");
            assertThat(dry.get("balance").get("writes").get(0).get("inserted").asLong())
                    .isEqualTo(2);
            JsonNode rehearsed = run(nachlauf, "run", "start", "cellar", "--file", file, "--rehearse", "--follow");
            assertThat(rehearsed
                            .get("balance")
                            .get("writes")
                            .get(0)
                            .get("inserted")
                            .asLong())
                    .isEqualTo(1);
            assertThat(stock("held")).isEqualTo("L-2 1 4");

            String id = run(nachlauf, "run", "start", "cellar", "--file", file, "--hold", "--follow")
                    .get("id")
                    .asString();
            JsonNode released = run(nachlauf, "run", "release", id, "--follow");
            assertThat(released.get("balance")
                            .get("writes")
                            .get(0)
                            .get("inserted")
                            .asLong())
                    .isEqualTo(1);
            assertThat(released.get("balance")
                            .get("writes")
                            .get(0)
                            .get("updated")
                            .asLong())
                    .isEqualTo(1);
            assertThat(stock("held")).isEqualTo("L-1 1 8; l-2 2 9");
            Result rejects = nachlauf.client("rejects", "list", "--run", id);
            assertThat(rejects.out())
                    .contains("No record of hut has hut_code = H-9", "The table's check bottles refuses 600");
            assertThat(nachlauf.client("run", "verify", id).out())
                    .contains("2 records compared = 2 equal + 0 differ + 0 gone");
            assertThat(nachlauf.client("record", "count", "cellar", "stock", "--where", "bottles > 8")
                            .out())
                    .contains("1");

            run(nachlauf, "run", "undo", id, "--follow");
            assertThat(stock("held")).isEqualTo("L-2 1 4");
        }
    }

    @Test
    void aServiceThatIsKilledInTheMiddleOfABatchGoesOnAndWritesNothingTwice() {
        int rows = 22_000;
        StringBuilder csv = new StringBuilder("label;hut;bottles\n");
        IntStream.rangeClosed(1, rows)
                .forEach(n -> csv.append("L-%d;H-%d;%d\n".formatted(n, n % 2 + 1, n == 7_000 ? 900 : n % 400)));
        try (Installation nachlauf = new Installation(CLUSTER, "killed", Map.of("NACHLAUF_HEARTBEAT", "400ms"))) {
            nachlauf.start("cellar/between-ledger-and-commit:1");
            furnish(nachlauf, "killed");
            String file = nachlauf.write("cellar.csv", csv.toString()).toString();
            String id = nachlauf.client("--output", "json", "run", "start", "cellar", "--file", file)
                    .json()
                    .get("id")
                    .asString();
            nachlauf.awaitPause("cellar/between-ledger-and-commit:1");
            nachlauf.kill();
            nachlauf.start("");
            JsonNode run = run(nachlauf, "run", "follow", id);
            assertThat(run.get("state").asString()).as(run.toString()).isEqualTo("finished");
            assertThat(run.get("balance").get("writes").get(0).get("inserted").asLong())
                    .isEqualTo(rows - 2);
            assertThat(run.get("balance").get("writes").get(0).get("updated").asLong())
                    .isEqualTo(1);
            assertThat(nachlauf.client("rejects", "list", "--run", id).out()).contains("cellar.csv, line 7001");
            assertThat(Installation.read(nachlauf.log()))
                    .as("the database's own words may hold values of rows")
                    .doesNotContain("stock.bottles");
            assertThat(SERVER.query("killed", "SELECT count(*) FROM stock")).isEqualTo(String.valueOf(rows - 1));
        }
    }
}

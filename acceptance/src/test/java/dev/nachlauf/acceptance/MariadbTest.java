package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A job that writes to MariaDB: the real service, in every way of going back. */
class MariadbTest {
    private static final Cellar CELLAR = new Cellar();
    private static final String ROWS = "label;hut;bottles\nL-1;H-1;8\nl-2;H-2;9\nL-3;H-9;1\nL-4;H-1;600\n";

    @AfterAll
    static void stop() {
        CELLAR.close();
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

    @Test
    void whatIsHeldIsReleasedComparedAndTakenBack() {
        try (Installation nachlauf = Installation.own("held")) {
            nachlauf.connect();
            CELLAR.furnish(nachlauf);
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
            assertThat(CELLAR.stock()).isEqualTo("L-2 1 4");

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
            assertThat(CELLAR.stock()).isEqualTo("L-1 1 8; l-2 2 9");
            Result rejects = nachlauf.client("rejects", "list", "--run", id);
            assertThat(rejects.out())
                    .contains("No record of hut has hut_code = H-9", "The table's check bottles refuses 600");
            assertThat(nachlauf.client("run", "verify", id).out())
                    .contains("2 records compared = 2 equal + 0 differ + 0 gone");
            assertThat(nachlauf.client("record", "count", "cellar", "stock", "--where", "bottles > 8")
                            .out())
                    .contains("1");

            run(nachlauf, "run", "undo", id, "--follow");
            assertThat(CELLAR.stock()).isEqualTo("L-2 1 4");
        }
    }
}

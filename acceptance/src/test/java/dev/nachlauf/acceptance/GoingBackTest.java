package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Seen before it is written, and taken back after: dry runs, held runs, comparison, undo and history, with the client. */
class GoingBackTest {
    private static final Installation NACHLAUF = Installation.shared();
    private static final String JOB = """
            nachlauf: 1
            job: flights
            read:
              connection: wardens-inbox
              file: none.csv
              fields: { line: { is: integer } }
            steps:
              - group: flight
                by: [no]
            write:
              - name: flight
                connection: register
                records: flight
                action: upsert
                once-per: flight
                key: [flight_no]
                map: { flight_no: no, hut: hut }
              - name: load
                connection: register
                records: flight_load
                action: upsert
                key: [flight_id, line_no]
                map: { flight_id: flight.id, line_no: line, article: article }
            """;
    private static final String FLIGHTS = """
            no;hut;line;article
            F-1;H-1;1;flour
            F-1;H-1;2;gas
            F-2;H-2;1;rope
            F-3;H-3;1;wood
            F-3;H-3;many;salt
            """;

    @BeforeAll
    static void createTables() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register,
                "CREATE TABLE flight (id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,"
                        + " flight_no text NOT NULL UNIQUE, hut text, pilot text)");
        NACHLAUF.cluster.execute(
                NACHLAUF.register,
                "CREATE TABLE flight_load (flight_id bigint REFERENCES flight, line_no integer, article text,"
                        + " PRIMARY KEY (flight_id, line_no))");
        String file = NACHLAUF.write("flights.yaml", JOB).toString();
        Result saved = NACHLAUF.client("job", "save", file);
        assertThat(saved.status()).as(saved.err()).isZero();
    }

    @BeforeEach
    void empty() {
        NACHLAUF.cluster.execute(NACHLAUF.register, "TRUNCATE flight, flight_load RESTART IDENTITY");
    }

    private static Result start(String csv, String... more) {
        String file = NACHLAUF.write("flights.csv", csv).toString();
        return NACHLAUF.client(Stream.concat(
                        Stream.of("--output", "json", "run", "start", "flights", "--follow", "--file", file),
                        Stream.of(more))
                .toArray(String[]::new));
    }

    private static String id(Result run) {
        return run.json().get("id").asString();
    }

    /** Each load with its flight, by its article. */
    private static String loads() {
        return NACHLAUF.count(
                "SELECT coalesce(string_agg(f.flight_no || ' ' || l.article, ', ' ORDER BY l.article), '')"
                        + " FROM flight_load l JOIN flight f ON f.id = l.flight_id");
    }

    private static String flights() {
        return NACHLAUF.count("SELECT coalesce(string_agg(flight_no, ', ' ORDER BY flight_no), '') FROM flight");
    }

    private static List<String> ledger(String run, String outcome) {
        return NACHLAUF.client("--output", "json", "run", "ledger", run, "--outcome", outcome).lines().stream()
                .map(line -> line.get("write").asString() + " "
                        + line.get("key")
                                .valueStream()
                                .map(part -> part.asString())
                                .toList())
                .toList();
    }

    @Test
    void aDryRunEndsAsTheRunWouldAndLeavesNothingBehind() {
        Result dry = start(FLIGHTS, "--dry-run");
        assertThat(dry.status()).as("rows would be rejected").isEqualTo(3);
        assertThat(ledger(id(dry), "inserted"))
                .as("ids that only a write gives are told as new")
                .containsExactlyInAnyOrder(
                        "flight [F-1]", "load [new, 1]", "load [new, 2]", "flight [F-2]", "load [new, 1]");
        assertThat(flights()).isEmpty();
        assertThat(NACHLAUF.count("SELECT is_called FROM flight_id_seq")).isEqualTo("f");
        Result shown = NACHLAUF.client("run", "show", id(dry));
        assertThat(shown.out())
                .contains("finished (dry run: nothing is written)", "flight 2 planned = 2 inserted")
                .contains("  inserted  flight F-1  flight_no F-1, hut H-1", "  inserted  load new · 1  flight_id new");
        assertThat(NACHLAUF.client("run", "release", id(dry)).err()).contains("run-state");
        assertThat(NACHLAUF.client("run", "undo", id(dry)).err()).contains("has written nothing");
    }

    @Test
    void aHeldRunGivesItsRecordsTheirIdsWhenItIsReleased() {
        Result held = start(FLIGHTS, "--hold");
        assertThat(held.status()).as("held as asked").isZero();
        assertThat(held.json().get("state").asString()).isEqualTo("held");
        assertThat(flights()).isEmpty();
        Result left = NACHLAUF.client("run", "leave-out", id(held), "--rows", "2,3");
        assertThat(left.out()).contains("leaves out 2 rows: 2-3");
        Result taken = NACHLAUF.client("run", "leave-out", id(held), "--rows", "2", "--take-in");
        assertThat(taken.out()).contains("leaves out 1 row: 3");
        Result released = NACHLAUF.client("--output", "json", "run", "release", id(held), "--follow");
        assertThat(released.status()).isEqualTo(3);
        assertThat(released.json().get("balance").get("balanced").asBoolean()).isTrue();
        assertThat(flights()).as("F-3 is rejected with its bad line").isEqualTo("F-1");
        assertThat(loads()).isEqualTo("F-1 flour, F-1 gas");
    }

    @Test
    void leavingAHeaderOutLeavesItsLinesOut() {
        Result held = start(FLIGHTS, "--hold");
        NACHLAUF.client("run", "leave-out", id(held), "--rows", "1");
        Result released = NACHLAUF.client("--output", "json", "run", "release", id(held), "--follow");
        assertThat(flights()).isEqualTo("F-2");
        assertThat(loads()).isEqualTo("F-2 rope");
        assertThat(ledger(id(released), "skipped")).hasSize(2);
    }

    @Test
    void modesDontGoTogether() {
        Result both = start(FLIGHTS, "--hold", "--dry-run");
        assertThat(both.status()).isEqualTo(2);
        assertThat(both.err()).contains("--dry-run and --hold don't go together.");
        assertThat(start(FLIGHTS, "--rehearse", "--dry-run").err())
                .contains("--dry-run and --rehearse don't go together.");
        assertThat(NACHLAUF.client("run", "leave-out", "1").err()).contains("--rows is missing.");
    }

    @Test
    void whatARunHasWrittenIsComparedUndoneAndHadBack() {
        NACHLAUF.cluster.execute(
                NACHLAUF.register, "INSERT INTO flight (flight_no, hut, pilot) VALUES ('F-2', 'H-9', 'Morwen')");
        String run = id(start(FLIGHTS));
        assertThat(NACHLAUF.client("run", "verify", run).status()).isZero();
        NACHLAUF.cluster.execute(NACHLAUF.register, "UPDATE flight_load SET article = 'coal' WHERE article = 'gas'");
        Result verified = NACHLAUF.client("run", "verify", run);
        assertThat(verified.status()).isEqualTo(1);
        assertThat(verified.out())
                .contains("5 records compared = 4 equal + 1 differ + 0 gone", "article was written gas");
        Result undo = NACHLAUF.client("--output", "json", "run", "undo", run, "--follow");
        assertThat(undo.status()).as("two records stay").isEqualTo(3);
        assertThat(NACHLAUF.client("--output", "json", "rejects", "list", "--run", id(undo))
                        .lines())
                .extracting(reject -> reject.get("problems").get(0).get("code").asString())
                .as("the changed line, and the flight that it refers to")
                .containsExactlyInAnyOrder("changed-since-written", "still-referred-to");
        assertThat(loads()).as("a row goes back whole or not at all").isEqualTo("F-1 coal, F-1 flour");
        assertThat(NACHLAUF.count("SELECT hut || ' ' || pilot FROM flight WHERE flight_no = 'F-2'"))
                .isEqualTo("H-9 Morwen");
        Result back = NACHLAUF.client("--output", "json", "run", "undo", id(undo), "--follow");
        assertThat(back.status()).isZero();
        assertThat(loads()).isEqualTo("F-1 coal, F-1 flour, F-2 rope");
    }

    @Test
    void parentsComeBackBeforeTheirChildrenAndGoAfterThem() {
        String run = id(start("no;hut;line;article\nF-1;H-1;1;flour\nF-1;H-1;2;gas\nF-2;H-2;1;rope\n"));
        String ids = NACHLAUF.count("SELECT string_agg(id || ' ' || flight_no, ', ' ORDER BY id) FROM flight");
        Result undo = NACHLAUF.client("--output", "json", "run", "undo", run, "--follow");
        assertThat(undo.status()).isZero();
        assertThat(flights() + loads()).isEmpty();
        Result back = NACHLAUF.client("--output", "json", "run", "undo", id(undo), "--follow");
        assertThat(back.status()).isZero();
        assertThat(loads()).isEqualTo("F-1 flour, F-1 gas, F-2 rope");
        assertThat(NACHLAUF.count("SELECT string_agg(id || ' ' || flight_no, ', ' ORDER BY id) FROM flight"))
                .as("with the ids that they had")
                .isEqualTo(ids);
        assertThat(NACHLAUF.client("run", "undo", id(back), "--follow").status())
                .isZero();
        assertThat(flights() + loads()).isEmpty();
    }

    @Test
    void theHistoryOfARecordNamesEveryRun() {
        String first = id(start("no;hut;line;article\nHIST-1;H-1;1;flour\n"));
        String second = id(start("no;hut;line;article\nHIST-1;H-2;1;flour\n"));
        String undo = id(NACHLAUF.client("--output", "json", "run", "undo", second, "--follow"));
        Result history = NACHLAUF.client(
                "--output", "json", "record", "history", "register", "flight", "--key", "flight_no=HIST-1");
        assertThat(history.lines())
                .extracting(change -> change.get("run").asString() + " "
                        + change.get("outcome").asString())
                .containsExactly(undo + " updated", second + " updated", first + " inserted");
        Result people = NACHLAUF.client("record", "history", "register", "flight", "--key", "flight_no=HIST-1");
        assertThat(people.out()).contains("undo of run " + second, "hut H-2 → H-1", "hut H-1 → H-2");
        Result unknown = NACHLAUF.client("record", "history", "register", "flihgt", "--key", "flight_no=F-1");
        assertThat(unknown.status()).isEqualTo(1);
        assertThat(unknown.err()).contains("has no record type flihgt");
        assertThat(NACHLAUF.client("record", "history", "regsiter", "flight", "--key", "a=b")
                        .err())
                .contains("regsiter");
    }
}

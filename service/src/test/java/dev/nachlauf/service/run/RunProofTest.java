package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import dev.nachlauf.api.ControlTotalsView;
import dev.nachlauf.api.ControlTotalsView.Records;
import dev.nachlauf.api.ControlTotalsView.Sum;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.api.UndoRun;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Runs whose figures are compared with what was typed, and with what the target holds. */
class RunProofTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_totals";
    private static final String FILE = "code;nights;price\nH-1;2;10.50\nH-2;3;8.00\n;4;1.00\nH-4;x;1.00\n";
    private static ServiceUnderTest service;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(REGISTER, "CREATE TABLE stay (code text PRIMARY KEY, nights integer, price numeric)");
        CLUSTER.execute(REGISTER, "CREATE TABLE note (id serial PRIMARY KEY, stay text)");
        CLUSTER.execute(REGISTER, """
                CREATE FUNCTION shorten() RETURNS trigger LANGUAGE plpgsql AS $$
                BEGIN
                  IF new.code = 'H-9' THEN
                    new.nights := 1;
                    INSERT INTO stay VALUES ('X-9', 0, 0);
                  END IF;
                  RETURN new;
                END $$""");
        CLUSTER.execute(
                REGISTER, "CREATE TRIGGER shorten BEFORE INSERT ON stay FOR EACH ROW EXECUTE FUNCTION shorten()");
        service.connect(REGISTER);
        Files.writeString(ServiceUnderTest.folder().resolve("stays.csv"), FILE);
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void emptyTable() {
        CLUSTER.execute(REGISTER, "TRUNCATE stay");
    }

    private void save(String job, String differ) {
        service.bean(Jobs.class).save("stays.yaml", """
                nachlauf: 1
                job: %s
                parameters:
                  paper: { is: decimal, required: false }
                read:
                  connection: inbox
                  file: stays.csv
                  format: { as: delimited, delimiter: ";" }
                  fields: { nights: { is: integer }, price: { is: decimal } }
                write:
                  connection: register
                  records: stay
                  action: upsert
                  key: [code]
                  map: { code: code, nights: nights, price: price }
                unlike-last-time: allow
                totals:
                  differ: %s
                  records: true
                  sums:
                    nights:
                      expect: :paper
                      target: nights
                    worth: { of: nights * price }
                """.formatted(job, differ), false, "test");
    }

    private RunView run(String job, String text, String mode, String paper, String rows) {
        String hash = service.keep("stays.csv", text.getBytes(StandardCharsets.UTF_8));
        Map<String, String> parameters = paper.isEmpty() ? Map.of() : Map.of("paper", paper);
        return service.run(new StartRun(job, hash, "stays.csv", parameters, mode, rows, null, null), "Wenna");
    }

    private static List<Sum> sums(RunView run) {
        return Objects.requireNonNull(run.totals()).sums();
    }

    private static List<String> told(List<ProblemView> problems) {
        return problems.stream().map(ProblemView::sentence).toList();
    }

    @Test
    void theFiguresStandBesideTheBalance() {
        save("stays-equal", "hold");
        CLUSTER.execute(REGISTER, "INSERT INTO stay VALUES ('H-2', 1, 1), ('H-7', 5, 5)");
        RunView run = run("stays-equal", FILE, "write", "9", null);
        assertThat(run.reasons()).isEmpty();
        assertThat(run.state()).isEqualTo("finished");
        assertThat(sums(run))
                .extracting(Sum::name, Sum::read, Sum::rejected, Sum::written, Sum::unread, Sum::expected, Sum::target)
                .containsExactly(
                        tuple("nights", "9", "4", "5", 1L, "9", "5"),
                        tuple("worth", "49.00", "4.00", "45.00", 1L, null, null));
        assertThat(run.totals())
                .extracting(ControlTotalsView::records)
                .isEqualTo(List.of(new Records("register stay", 2, 1, 0, 3, false)));
    }

    @Test
    void aTypedTotalThatDiffersHoldsTheRunBeforeAnythingIsWritten() {
        save("stays-held", "hold");
        RunView run = run("stays-held", FILE, "write", "11", null);
        assertThat(run.state()).isEqualTo("held");
        assertThat(told(run.reasons()))
                .containsExactly("The rows add up to 9 in nights, 11 is expected: 2 too little; of 1 row it could not"
                        + " be read.");
        assertThat(sums(run).getFirst().written()).as("what is planned").isEqualTo("5");
        assertThat(CLUSTER.query(REGISTER, "SELECT count(*) FROM stay")).isEqualTo("0");

        service.bean(Runs.class).release(run.id(), true, "Perran");
        RunView released = service.settled(run.id());
        assertThat(released.state()).isEqualTo("finished");
        assertThat(released.warnings()).extracting(ProblemView::code).contains("total-accepted");
        assertThat(CLUSTER.query(REGISTER, "SELECT sum(nights) FROM stay")).isEqualTo("5");
    }

    @Test
    void aTypedTotalThatDiffersFailsTheRunWhereTheJobSaysSo() {
        save("stays-failed", "fail");
        RunView run = run("stays-failed", FILE, "write", "8.5", null);
        assertThat(run.state()).isEqualTo("failed");
        assertThat(told(run.reasons()).getFirst())
                .startsWith("The rows add up to 9 in nights, 8.5 is expected: 0.5 too much");
        assertThat(CLUSTER.query(REGISTER, "SELECT count(*) FROM stay")).isEqualTo("0");
        assertThat(run("stays-failed", FILE, "dry-run", "8.5", null).warnings())
                .extracting(ProblemView::code)
                .contains("limit-foreseen");
    }

    @Test
    void whatTheTargetMakesOfItHoldsTheRunBehindItsLastRow() {
        save("stays-target", "hold");
        RunView run = run("stays-target", "code;nights;price\nH-8;2;1\nH-9;3;1\n", "write", "", null);
        assertThat(run.state()).isEqualTo("held");
        assertThat(told(run.reasons()))
                .containsExactly(
                        "The rows that were written add up to 5 in nights, their records in the target to 3: 2 too"
                                + " little.",
                        "register stay held 0 records before; with 2 inserted and 0 deleted there would be 2, but there"
                                + " are 3: somebody else, or the target itself, has written there too.");
        service.bean(Runs.class).release(run.id(), true, "Perran");
        assertThat(service.settled(run.id()).state()).isEqualTo("finished");
        assertThat(sums(service.settled(run.id())).getFirst().differs()).isTrue();
        assertThat(service.settled(run.id()).totals().records().getFirst().before())
                .as("counted before the first row")
                .isZero();
    }

    @Test
    void aRunThatIsHeldBehindItsLastRowIsDiscardedAndTakenBack() {
        save("stays-back", "hold");
        RunView run = run("stays-back", "code;nights;price\nH-8;2;1\nH-9;3;1\n", "write", "", null);
        service.bean(Runs.class).discard(run.id(), "Perran");
        RunView undo = service.settled(service.bean(RunUndoing.class)
                .start(run.id(), new UndoRun(null, null), "Perran")
                .id());
        assertThat(undo.state()).isEqualTo("finished");
        assertThat(undo.balance().deleted()).isEqualTo(2);
        assertThat(CLUSTER.query(REGISTER, "SELECT string_agg(code, ',') FROM stay"))
                .as("what the trigger made is not the run's")
                .isEqualTo("X-9");
    }

    @Test
    void nothingIsExpectedOfSomeOfTheRows() {
        save("stays-part", "hold");
        RunView run = run("stays-part", FILE, "write", "9", "1");
        assertThat(run.state()).isEqualTo("finished");
        assertThat(sums(run).getFirst().skipped()).isEqualTo("7");
        assertThat(sums(run).getFirst().expected()).isNull();
    }
}

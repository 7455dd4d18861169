package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.UndoRun;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;

/** Changes of sensitive values, which a second person has to let pass. */
class SecondPersonTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_two";
    private static ServiceUnderTest service;
    private static int jobs;

    private String job;

    @BeforeAll
    static void start() {
        service = new ServiceUnderTest();
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(REGISTER, "CREATE TABLE stay (stay_no text PRIMARY KEY, nights integer, guest text)");
        service.bean(Connections.class)
                .save("register.yaml", """
                nachlauf: 1
                connection: register
                type: postgresql
                settings: { port: %d, database: %s, user: %s }
                marks: { stay: { guest: { sensitive: true } } }
                """.formatted(CLUSTER.port(), REGISTER, PrivateCluster.ADMIN), "test");
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void twoStays() {
        job = "two-" + ++jobs;
        CLUSTER.execute(REGISTER, "TRUNCATE stay");
        CLUSTER.execute(REGISTER, "INSERT INTO stay VALUES ('S-1', 2, 'Ada'), ('S-2', 3, 'Bo'), ('S-3', 1, NULL)");
    }

    private void save(String action, String map) {
        service.bean(Jobs.class).save("stays.yaml", """
                nachlauf: 1
                job: %s
                read: { upload: stays, fields: { nights: { is: integer } } }
                unlike-last-time: allow
                write: { connection: register, records: stay, action: %s, key: [stay_no], map: %s }
                """.formatted(job, action, map), false, "test");
    }

    private RunView run(String rows, String mode) {
        byte[] file = ("stay_no,nights,guest\n" + rows).getBytes(StandardCharsets.UTF_8);
        return service.run(job, "stays.csv", file, mode);
    }

    private static String guests() {
        return CLUSTER.query(REGISTER, "SELECT string_agg(coalesce(guest, '-'), ',' ORDER BY stay_no) FROM stay");
    }

    private static final String WHOLE = "{ stay_no: stay_no, nights: nights, guest: guest }";

    @Test
    void waitForSomebodyElse() {
        save("upsert", WHOLE);
        RunView held = run("S-1,2,Ada\nS-2,3,Cy\nS-3,1,Di\nS-4,4,Ed\n", "write");
        assertThat(held.state()).isEqualTo("held");
        assertThat(held.reasons())
                .extracting(ProblemView::code, ProblemView::sentence, ProblemView::remedy)
                .containsExactly(tuple(
                        "sensitive-change",
                        "2 values of sensitive fields would change (guest 2).",
                        "Somebody other than Wenna looks at what is planned, and releases the run or discards it."));
        assertThat(guests()).isEqualTo("Ada,Bo,-");
        Runs runs = service.bean(Runs.class);
        assertThatThrownBy(() -> runs.release(held.id(), false, "Wenna"))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.SECOND_PERSON));
        assertThatThrownBy(() -> runs.release(held.id(), true, "Wenna")).isInstanceOf(CannotGoOn.class);
        assertThat(guests()).isEqualTo("Ada,Bo,-");
        runs.release(held.id(), false, "Tamsin");
        RunView done = service.settled(held.id());
        assertThat(done.state()).isEqualTo("finished");
        assertThat(done.balance().updated()).isEqualTo(2);
        assertThat(guests()).isEqualTo("Ada,Cy,Di,Ed");
    }

    @Test
    void waitWhereARunIsHeldAnyway() {
        save("upsert", WHOLE);
        RunView held = run("S-2,3,Cy\n", "hold");
        assertThat(held.reasons()).extracting(ProblemView::code).containsExactly("held-for-review", "sensitive-change");
        assertThatThrownBy(() -> service.bean(Runs.class).release(held.id(), false, "Wenna"))
                .hasMessageContaining("Run " + held.id() + " changes sensitive values, and Wenna has started it.");
        service.bean(Runs.class).discard(held.id(), "Wenna");
    }

    @Test
    void areToldByADryRun() {
        save("upsert", WHOLE);
        RunView dry = run("S-1,2,Cy\n", "dry-run");
        assertThat(dry.state()).isEqualTo("finished");
        assertThat(dry.warnings())
                .extracting(ProblemView::sentence)
                .contains("A load of these rows waits for a second person: 1 value of a sensitive field would change"
                        + " (guest 1).");
    }

    @Test
    void waitWhereRecordsGoThatHoldThem() {
        save("delete", "{ stay_no: stay_no }");
        RunView held = run("S-1,2,\nS-3,1,\n", "write");
        assertThat(held.reasons())
                .extracting(ProblemView::sentence)
                .containsExactly("2 records that hold such values would go (stay 2).");
        service.bean(Runs.class).release(held.id(), false, "Tamsin");
        assertThat(service.settled(held.id()).balance().deleted()).isEqualTo(2);
    }

    @Test
    void waitBeforeTheyAreTakenBack() {
        save("upsert", WHOLE);
        RunView written = run("S-1,9,Cy\nS-7,1,Flo\n", "write");
        service.bean(Runs.class).release(written.id(), false, "Tamsin");
        service.settled(written.id());
        RunView undo = undone(written.id(), List.of());
        assertThat(undo.state()).isEqualTo("held");
        assertThat(undo.reasons())
                .extracting(ProblemView::code, ProblemView::sentence, ProblemView::remedy)
                .containsExactly(tuple(
                        "sensitive-change",
                        "1 value of a sensitive field would change (guest 1), and 1 record that holds such a value"
                                + " would go (stay 1).",
                        "Somebody other than Wenna looks at what run " + written.id()
                                + " has written, and releases this run or discards it."));
        assertThat(guests()).isEqualTo("Cy,Bo,-,Flo");
        Runs runs = service.bean(Runs.class);
        assertThatThrownBy(() -> runs.release(undo.id(), true, "Wenna"))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.SECOND_PERSON));
        runs.release(undo.id(), false, "Tamsin");
        RunView done = service.settled(undo.id());
        assertThat(done.state()).isEqualTo("finished");
        assertThat(done.balance().updated()).isEqualTo(1);
        assertThat(done.balance().deleted()).isEqualTo(1);
        assertThat(guests()).isEqualTo("Ada,Bo,-");
    }

    @Test
    void letOtherFieldsBeTakenBackAtOnce() {
        save("upsert", WHOLE);
        RunView written = run("S-1,9,Cy\n", "write");
        service.bean(Runs.class).release(written.id(), false, "Tamsin");
        service.settled(written.id());
        RunView undo = undone(written.id(), List.of("nights"));
        assertThat(undo.state()).isEqualTo("finished");
        assertThat(undo.balance().updated()).isEqualTo(1);
        assertThat(CLUSTER.query(REGISTER, "SELECT nights || guest FROM stay WHERE stay_no = 'S-1'"))
                .isEqualTo("2Cy");
        RunView again = undone(written.id(), List.of());
        service.bean(Runs.class).discard(again.id(), "Wenna");
        assertThat(guests()).as("what is discarded changes nothing").isEqualTo("Cy,Bo,-");
    }

    private static RunView undone(long run, List<String> fields) {
        RunUndoing undoing = service.bean(RunUndoing.class);
        return service.settled(
                undoing.start(run, new UndoRun(null, fields), "Wenna").id());
    }

    /** Two who look at the same run: one is shown the values. */
    @Test
    void areShownToWhoeverHasTheRight() throws Exception {
        String sees = token("{\"name\":\"registrar\",\"role\":\"run\",\"seesSensitive\":true}");
        String seesNot = token("{\"name\":\"night-shift\",\"role\":\"administer\"}");
        save("upsert", WHOLE);
        RunView held = run("S-1,2,Cy\nS-2,x,Dee\n", "write");
        String ledger = "/runs/" + held.id() + "/ledger?outcome=updated";
        assertThat(get(ledger, sees))
                .contains("\"before\":\"Ada\"", "\"after\":\"Cy\"")
                .doesNotContain("•••");
        assertThat(get(ledger, seesNot)).contains("•••").doesNotContain("Ada", "Cy");
        String rejects = "/rejects?run=" + held.id();
        assertThat(get(rejects, sees)).contains("Dee");
        assertThat(get(rejects, seesNot)).contains("S-2", "•••").doesNotContain("Dee");
        assertThat(get("/session", sees)).contains("\"seesSensitive\":true");
        service.bean(Runs.class).discard(held.id(), "Wenna");
    }

    private static String token(String asked) throws Exception {
        HttpResponse<String> made = HttpClient.newHttpClient()
                .send(
                        service.request("/tokens")
                                .header("Content-Type", "application/json")
                                .POST(HttpRequest.BodyPublishers.ofString(asked))
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
        return JsonMapper.shared().readTree(made.body()).path("secret").asString();
    }

    private static String get(String path, String token) throws Exception {
        return HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create(service.address() + path))
                                .header("Authorization", "Bearer " + token)
                                .build(),
                        HttpResponse.BodyHandlers.ofString())
                .body();
    }

    @Test
    void areNoneWhereValuesAreNewOrOthersChange() {
        save("upsert", WHOLE);
        assertThat(run("S-1,9,Ada\nS-7,1,Flo\n", "write").state()).isEqualTo("finished");
        save("insert", WHOLE);
        RunView inserted = run("S-8,1,Gil\n", "write");
        assertThat(inserted.state()).isEqualTo("finished");
        save("update", "{ stay_no: stay_no, nights: nights, guest: { value: guest, write: on-insert } }");
        assertThat(run("S-1,8,Zoe\n", "write").state()).isEqualTo("finished");
        assertThat(guests()).isEqualTo("Ada,Bo,-,Flo,Gil");
    }
}

package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.core.run.RunRecords.Fenced;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.connection.OpenedSystems;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** What a run reads is fetched by the run: it exists before, shows its stage, waits for its source, and can be stopped. */
class RunGatheringTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_gathering";
    private static ServiceUnderTest service;

    @BeforeAll
    static void start() {
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(REGISTER, """
                CREATE TABLE hut (code text PRIMARY KEY, beds integer);
                CREATE TABLE offer (code text, beds integer);
                INSERT INTO offer VALUES ('H-1', 8), ('H-2', 9);
                CREATE VIEW slow_offer AS SELECT 'H-' || n AS code, n AS beds
                    FROM generate_series(1, 1000000) n, LATERAL (SELECT pg_sleep(0.0005 + n * 0)) s""");
        service = new ServiceUnderTest();
        connection("register", CLUSTER.port());
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static void connection(String name, int port) {
        connection(name, port, REGISTER);
    }

    private static void connection(String name, int port, String database) {
        service.bean(Connections.class)
                .save(name + ".yaml", """
                nachlauf: 1
                connection: %s
                type: postgresql
                settings: { port: %d, database: %s, user: %s }
                """.formatted(name, port, database, PrivateCluster.ADMIN), "test");
    }

    private static void inbox() {
        service.bean(Connections.class).save("inbox.yaml", """
                nachlauf: 1
                connection: inbox
                type: folder
                settings: { path: %s, quiet: 0 }
                """.formatted(ServiceUnderTest.folder()), "test");
    }

    private static long start(String job, String connection, String records) {
        return startReading(job, connection, "records: " + records);
    }

    private static long startReading(String job, String connection, String what) {
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: %s
                read: { connection: %s, %s }
                write:
                  connection: register
                  records: hut
                  action: upsert
                  key: [code]
                  map: { code: code, beds: beds }
                """.formatted(job, connection, what), false, "test");
        return service.bean(Runs.class)
                .start(new StartRun(job, null, null, Map.of(), null), "test")
                .id();
    }

    private static RunView await(long id, Predicate<RunView> state) {
        RunView run = ServiceUnderTest.patiently()
                .until(() -> service.bean(RunViews.class).show(id), now -> now.ended() || state.test(now));
        assertThat(run).matches(state);
        return run;
    }

    @Test
    void itsStageIsShownAndAStopEndsIt() {
        long id = start("slow", "register", "slow_offer");
        RunView fetching = await(id, run -> run.surveyed() > 0);
        assertThat(fetching.phase()).isEqualTo("fetching");
        assertThat(fetching.source()).isEqualTo("register slow_offer");
        service.bean(Runs.class).stop(id, "test");
        RunView stopped = await(id, RunView::ended);
        assertThat(stopped.state()).isEqualTo("stopped");
        assertThat(stopped.balance().read()).isZero();
        assertThat(stopped.balance().balanced()).isTrue();
        assertThat(stopped.files()).isEmpty();
    }

    @Test
    void aSourceThatIsAwayIsWaitedFor() {
        connection("valley", CLUSTER.port());
        int nobody = PrivateCluster.freePort();
        service.holdTasks();
        long id = start("patient", "valley", "offer");
        connection("valley", nobody);
        service.releaseTasks();
        RunView waiting = await(id, run -> !run.note().isEmpty());
        assertThat(waiting.state()).isEqualTo("waiting");
        assertThat(waiting.note()).contains("The run tries again by itself.");
        connection("valley", CLUSTER.port());
        RunView finished = await(id, RunView::ended);
        assertThat(finished.state()).as(finished.reasons().toString()).isEqualTo("finished");
        assertThat(finished.balance().inserted()).isEqualTo(2);
    }

    @Test
    void whatIsWrongWithItsSourceIsWhyItFailed() {
        service.holdTasks();
        long id = start("gone", "register", "offer");
        CLUSTER.execute(REGISTER, "ALTER TABLE offer RENAME TO old_offer");
        service.releaseTasks();
        RunView failed = await(id, RunView::ended);
        CLUSTER.execute(REGISTER, "ALTER TABLE old_offer RENAME TO offer");
        assertThat(failed.state()).isEqualTo("failed");
        assertThat(failed.reasons()).extracting(ProblemView::code).containsExactly("query-refused");
        assertThat(failed.balance().balanced()).isTrue();
    }

    private static Optional<String> gather(RunEntity run, long epoch) {
        try (OpenedSystems open = new OpenedSystems(service.bean(Connections.class))) {
            return service.bean(RunGathering.class).gather(run, epoch, open);
        }
    }

    /** To connect and to learn a table takes longer than a few rows do: the connection that looks then writes. */
    @Test
    void aRunConnectsToItsTargetOnce() {
        String few = "register_of_few";
        CLUSTER.createDatabase(few);
        CLUSTER.execute(few, "CREATE TABLE hut (code text PRIMARY KEY, beds integer)");
        connection("few", CLUSTER.port(), few);
        inbox();
        service.bean(Jobs.class).save("few-huts.yaml", """
                nachlauf: 1
                job: few-huts
                read: { connection: inbox, file: upload, format: { as: delimited }, fields: { beds: { is: integer } } }
                write: { connection: few, records: hut, action: upsert, key: [code], map: { code: code, beds: beds } }
                """, false, "test");
        long before = sessions(few);
        byte[] file = "code,beds\nH-1,8\nH-2,9\n".getBytes(StandardCharsets.UTF_8);
        RunView run = service.run("few-huts", "huts.csv", file, null);
        assertThat(run.balance().inserted()).as(run.reasons().toString()).isEqualTo(2);
        assertThat(sessions(few) - before).isEqualTo(1);
    }

    /** How many sessions a database has had, once all of them have ended: only then they are counted. */
    private static long sessions(String database) {
        String open = "SELECT count(*) FROM pg_stat_activity WHERE datname = '" + database + "'";
        ServiceUnderTest.patiently().until(() -> service.query(open).equals("0"));
        return Long.parseLong(
                service.query("SELECT sessions FROM pg_stat_database WHERE datname = '" + database + "'"));
    }

    /** An attempt that dies between finding nothing and saying so is followed by one that finds nothing again. */
    @Test
    void nothingToReadIsNoFailureAlsoAfterACrash() {
        inbox();
        service.holdTasks();
        long id = startReading("empty", "inbox", "file: gathered-*.csv");
        RunTransitions transitions = service.bean(RunTransitions.class);
        long epoch = transitions.claim(id).orElseThrow();
        RunEntity run = service.bean(RunRepository.class).findById(id).orElseThrow();
        assertThat(gather(run, epoch)).contains("No file is there.");
        service.releaseTasks();
        RunView finished = await(id, RunView::ended);
        assertThat(finished.state()).as(finished.reasons().toString()).isEqualTo("finished");
        assertThat(finished.note()).isEqualTo("No file is there.");
        assertThat(finished.source()).isEqualTo("nothing new");
    }

    /** Two hands: who was overtaken while fetching keeps nothing with the run. */
    @Test
    void anOvertakenAttemptKeepsNothing() {
        service.holdTasks();
        long id = start("overtaken", "register", "offer");
        RunTransitions transitions = service.bean(RunTransitions.class);
        long first = transitions.claim(id).orElseThrow();
        RunEntity run = service.bean(RunRepository.class).findById(id).orElseThrow();
        transitions.claim(id).orElseThrow();
        assertThatThrownBy(() -> gather(run, first)).isInstanceOf(Fenced.class);
        assertThat(service.query("SELECT gathered FROM run WHERE id = " + id)).isEqualTo("f");
        assertThat(service.query("SELECT count(*) FROM run_source WHERE run_id = " + id))
                .isEqualTo("0");
        transitions.stop(id, "test");
        service.releaseTasks();
    }
}

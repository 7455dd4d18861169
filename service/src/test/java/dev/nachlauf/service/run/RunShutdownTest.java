package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.sql.Connection;
import java.sql.Statement;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.springframework.context.ConfigurableApplicationContext;

/** A service that is ended in the middle of a run: that is no defect, and the next start carries the run on. */
@Order(1) // waits longest
class RunShutdownTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_shutdown";
    private static final String HUTS = "code;name\nH-1;Larch\nH-2;Stone\n";
    private static final int TIMES = 3;

    @BeforeAll
    static void register() {
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(REGISTER, "CREATE TABLE hut (code text PRIMARY KEY, name text)");
    }

    @BeforeEach
    void empty() {
        CLUSTER.execute(REGISTER, "TRUNCATE hut");
    }

    @Test
    void anOrdinaryEndLeavesTheRunForTheNextStart() throws Exception {
        long run;
        ServiceUnderTest first = ServiceUnderTest.own();
        saveJob(first);
        try (Connection other = CLUSTER.connect(REGISTER);
                Statement statement = other.createStatement()) {
            other.setAutoCommit(false);
            // the run gets as far as its first batch, and no further
            statement.execute("LOCK TABLE hut IN ACCESS EXCLUSIVE MODE");
            run = start(first);
            awaitTheLock();
            first.close();
            for (int time = 1; time < TIMES; time++) {
                ConfigurableApplicationContext next = ServiceUnderTest.start(first.database(), first.home());
                awaitEpoch(first.database(), time + 1);
                next.close();
            }
            assertThat(CLUSTER.query(first.database(), "SELECT state || ' ' || defects FROM run"))
                    .isEqualTo("running 0");
        }
        try (ConfigurableApplicationContext last = ServiceUnderTest.start(first.database(), first.home())) {
            RunView end = ServiceUnderTest.patiently()
                    .until(() -> last.getBean(RunViews.class).show(run), RunView::ended);
            assertThat(end.state()).as(end.reasons().toString()).isEqualTo("finished");
            assertThat(end.balance().inserted()).isEqualTo(2);
            assertThat(CLUSTER.query(REGISTER, "SELECT count(*) FROM hut")).isEqualTo("2");
        }
    }

    /** Whatever breaks off while the process ends is no defect of the run; at any other time it is. */
    @Test
    void whatBreaksOffDuringTheEndIsNoDefect() throws Exception {
        try (ServiceUnderTest service = new ServiceUnderTest()) {
            saveJob(service);
            long run = start(service);
            service.settled(run);
            service.holdTasks();
            service.execute("UPDATE run SET state = 'waiting', sessions = '[' WHERE id = " + run);
            RunExecution execution = service.bean(RunExecution.class);
            assertThatThrownBy(() -> execution.attempt(run, () -> true)).isInstanceOf(RuntimeException.class);
            assertThat(service.query("SELECT state || ' ' || defects FROM run")).isEqualTo("running 0");
            execution.attempt(run, () -> false);
            assertThat(service.query("SELECT defects FROM run")).isEqualTo("1");
            service.execute("UPDATE run SET state = 'failed'");
            service.releaseTasks();
        }
    }

    /** Nor is what a target or a source seems to say then, for it may be nothing but our own interruption. */
    @Test
    void whatIsMetDuringTheEndDoesNotEndTheRun() throws Exception {
        try (ServiceUnderTest service = new ServiceUnderTest()) {
            saveJob(service);
            long run = start(service);
            service.settled(run);
            service.holdTasks();
            service.execute("UPDATE run SET state = 'waiting', target_description = 'another' WHERE id = " + run);
            RunExecution execution = service.bean(RunExecution.class);
            assertThatThrownBy(() -> execution.attempt(run, () -> true)).isInstanceOf(CannotGoOn.class);
            assertThat(service.query("SELECT state FROM run")).isEqualTo("running");
            execution.attempt(run, () -> false);
            assertThat(service.query("SELECT state FROM run")).isEqualTo("failed");
            service.releaseTasks();
        }
    }

    private static void saveJob(ServiceUnderTest service) throws IOException {
        service.bean(Connections.class)
                .save("register.yaml", """
                nachlauf: 1
                connection: register
                type: postgresql
                settings: { port: %d, database: %s, user: %s }
                """.formatted(CLUSTER.port(), REGISTER, PrivateCluster.ADMIN), "test");
        service.bean(Connections.class)
                .save(
                        "inbox.yaml",
                        "nachlauf: 1\nconnection: inbox\ntype: folder\nsettings: { path: " + ServiceUnderTest.folder()
                                + " }\n",
                        "test");
        Files.writeString(ServiceUnderTest.folder().resolve("shutdown.csv"), HUTS);
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: huts
                read: { connection: inbox, file: shutdown.csv }
                write: { connection: register, records: hut, action: upsert, key: [code], same-names: true }
                """, false, "test");
    }

    private static long start(ServiceUnderTest service) throws IOException {
        String hash = service.bean(FileStore.class)
                .keep("huts.csv", new ByteArrayInputStream(HUTS.getBytes(StandardCharsets.UTF_8)))
                .hash();
        return service.bean(Runs.class)
                .start(new StartRun("huts", hash, "huts.csv", Map.of(), null), "test")
                .id();
    }

    private static void awaitTheLock() {
        String waiting = "SELECT EXISTS (SELECT FROM pg_locks WHERE NOT granted AND relation = 'hut'::regclass)";
        ServiceUnderTest.patiently()
                .until(() -> CLUSTER.query(REGISTER, waiting).equals("t"));
    }

    private static void awaitEpoch(String database, long epoch) {
        ServiceUnderTest.patiently()
                .until(() -> Long.parseLong(CLUSTER.query(database, "SELECT epoch FROM run")) >= epoch);
    }
}

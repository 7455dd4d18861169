package dev.nachlauf.service.connection;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Systems are opened once, whoever asks first, and beside other work where that is asked for. */
class OpenedSystemsTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String VALLEY = "opened_valley";
    private static final String UNASKED = "opened_unasked";
    private static ServiceUnderTest service;

    @BeforeAll
    static void start() {
        CLUSTER.createDatabase(VALLEY);
        CLUSTER.createDatabase(UNASKED);
        service = new ServiceUnderTest();
        connection("valley", CLUSTER.port(), VALLEY);
        connection("unasked", CLUSTER.port(), UNASKED);
        connection("away", PrivateCluster.freePort(), VALLEY);
    }

    @AfterAll
    static void stop() {
        service.close();
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

    private static OpenedSystems systems() {
        return new OpenedSystems(service.bean(Connections.class));
    }

    private static String sessions(String database) {
        return service.query("SELECT count(*) FROM pg_stat_activity WHERE datname = '" + database + "'");
    }

    @Test
    void aSystemIsConnectedToAheadAndNotLeftOpen() {
        try (OpenedSystems systems = systems()) {
            systems.anticipate("valley");
            systems.anticipate("valley");
            assertThat(systems.of("valley")).isPresent();
            assertThat(sessions(VALLEY)).isEqualTo("1");
        }
        ServiceUnderTest.patiently().until(() -> sessions(VALLEY).equals("0"));
    }

    @Test
    void whatIsNeverAskedForIsClosedToo() {
        try (OpenedSystems systems = systems()) {
            systems.anticipate("unasked");
        }
        ServiceUnderTest.patiently().until(() -> sessions(UNASKED).equals("0"));
        String had = "SELECT sessions FROM pg_stat_database WHERE datname = '" + UNASKED + "'";
        ServiceUnderTest.patiently().until(() -> service.query(had).equals("1"));
    }

    @Test
    void whoeverAsksHearsWhyThereIsNoSystem() {
        try (OpenedSystems systems = systems()) {
            systems.anticipate("away");
            systems.anticipate("nobody");
            for (int i = 0; i < 2; i++) {
                assertThatThrownBy(() -> systems.of("away"))
                        .isInstanceOfSatisfying(
                                CannotGoOn.class,
                                e -> assertThat(e.isTemporary()).isTrue());
            }
            assertThat(systems.of("nobody")).isEmpty();
        }
    }

    @Test
    void twoWhoAskGetTheSame() throws Exception {
        try (OpenedSystems systems = systems();
                ExecutorService hands = Executors.newFixedThreadPool(2)) {
            List<Future<OpenSystem>> asked = new ArrayList<>();
            for (int i = 0; i < 2; i++) {
                asked.add(hands.submit(() -> systems.of("valley").orElseThrow()));
            }
            assertThat(asked.get(0).get()).isSameAs(asked.get(1).get());
        }
    }
}

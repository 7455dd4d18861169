package dev.nachlauf.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.connectors.database.postgresql.PostgresqlType;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.ReadsRecords;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.ReadsRecords.RecordQuery;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Encryption to a server that offers it under the name localhost, by a certificate that no known authority has signed. */
class PostgresqlTlsTest {
    private static PrivateCluster cluster;
    private static Path certificate;

    @BeforeAll
    static void start() {
        cluster = PrivateCluster.start();
        certificate = cluster.offerTls();
    }

    @AfterAll
    static void stop() {
        cluster.close();
    }

    private static OpenSystem open(int port, String host, String... settings) {
        Map<String, String> all = new HashMap<>(Map.of(
                "host", host, "port", String.valueOf(port), "database", "postgres", "user", PrivateCluster.ADMIN));
        for (int i = 0; i < settings.length; i += 2) {
            all.put(settings[i], settings[i + 1]);
        }
        return new PostgresqlType().open(new Settings(all, reference -> ""));
    }

    /** Whether the server sees the session as encrypted. */
    private static boolean encrypted(String host, String... settings) {
        try (OpenSystem system = open(cluster.port(), host, settings);
                RecordCursor cursor = ((ReadsRecords) system)
                        .read(new RecordQuery.Statement(
                                "select ssl from pg_stat_ssl where pid = pg_backend_pid()", Map.of()))) {
            return Boolean.TRUE.equals(cursor.next()[0]);
        }
    }

    private static void refused(int port, String host, String... settings) {
        try (OpenSystem system = open(port, host, settings)) {
            assertThatThrownBy(system::greet).isInstanceOfSatisfying(CannotGoOn.class, e -> {
                assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.TLS_REFUSED);
                assertThat(e.isTemporary()).isFalse();
            });
        }
    }

    @Test
    void isOffOnLoopbackUnlessItIsAskedFor() {
        assertThat(encrypted("localhost")).isFalse();
        assertThat(encrypted("127.0.0.1", "tls", "require")).isTrue();
        assertThat(encrypted("localhost", "tls", "verify", "authority", certificate.toString()))
                .isTrue();
    }

    @Test
    void aServerIsRefusedThatIsNotWhoItShouldBe() {
        refused(cluster.port(), "localhost", "tls", "verify");
        refused(cluster.port(), "127.0.0.1", "tls", "verify", "authority", certificate.toString());
    }

    @Test
    void aServerWithoutTlsIsRefusedWhereItIsDemanded() {
        refused(Cluster.SHARED.port(), "localhost", "tls", "require");
        refused(Cluster.SHARED.port(), "localhost", "tls", "verify");
    }

    @Test
    void anotherWordIsRefused() {
        assertThatThrownBy(() -> open(cluster.port(), "localhost", "tls", "maybe"))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.SETTING_MALFORMED));
    }
}

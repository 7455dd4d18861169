package dev.nachlauf.contract;

import dev.nachlauf.connectors.database.postgresql.PostgresqlType;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;

class PostgresqlTlsTest extends DatabaseTlsContract {
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

    @Override
    int port() {
        return cluster.port();
    }

    @Override
    Path certificate() {
        return certificate;
    }

    @Override
    int plainPort() {
        return Cluster.SHARED.port();
    }

    @Override
    OpenSystem open(Settings settings) {
        return new PostgresqlType().open(settings);
    }

    @Override
    Map<String, String> account() {
        return Map.of("database", "postgres", "user", PrivateCluster.ADMIN);
    }

    @Override
    String isEncrypted() {
        return "select ssl from pg_stat_ssl where pid = pg_backend_pid()";
    }
}

package dev.nachlauf.contract;

import dev.nachlauf.connectors.database.mariadb.MariadbType;
import dev.nachlauf.contract.mariadb.PrivateMariadb;
import dev.nachlauf.core.system.OpenSystem;
import dev.nachlauf.core.system.Settings;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;

class MariadbTlsTest extends DatabaseTlsContract {
    private static PrivateMariadb server;
    private static Path certificate;

    @BeforeAll
    static void start() {
        server = PrivateMariadb.start();
        certificate = server.offerTls();
    }

    @AfterAll
    static void stop() {
        server.close();
    }

    @Override
    int port() {
        return server.port();
    }

    @Override
    Path certificate() {
        return certificate;
    }

    @Override
    int plainPort() {
        return Mariadb.SHARED.port();
    }

    @Override
    OpenSystem open(Settings settings) {
        return new MariadbType().open(settings);
    }

    @Override
    Map<String, String> account() {
        return Map.of("database", PrivateMariadb.ACCOUNT, "user", PrivateMariadb.ACCOUNT, "password", "env:P");
    }

    @Override
    String secret() {
        return PrivateMariadb.PASSWORD;
    }

    @Override
    String isEncrypted() {
        return "select case when variable_value <> '' then 'true' else 'false' end"
                + " from information_schema.session_status where variable_name = 'SSL_CIPHER'";
    }
}

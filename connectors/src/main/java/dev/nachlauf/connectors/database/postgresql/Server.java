package dev.nachlauf.connectors.database.postgresql;

import dev.nachlauf.connectors.database.HostName;
import dev.nachlauf.connectors.database.Tls;
import dev.nachlauf.core.system.Settings;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Properties;
import org.postgresql.Driver;
import org.postgresql.ssl.DefaultJavaSSLFactory;
import org.postgresql.util.PSQLState;

/** Where a database is, and as whom it is entered. */
final class Server {
    /** So long a server may take to answer that it is there. */
    static final int CONNECT_SECONDS = 5;

    private final String host;
    private final int port;
    private final String database;
    private final Properties account = new Properties();

    Server(Settings settings) {
        host = HostName.of(settings);
        port = settings.integer("port", 5432, 1, 65_535);
        database = settings.required("database");
        account.setProperty("user", settings.required("user"));
        settings.secret("password").ifPresent(password -> account.setProperty("password", password));
        account.setProperty("connectTimeout", String.valueOf(CONNECT_SECONDS));
        account.setProperty("loginTimeout", String.valueOf(2 * CONNECT_SECONDS));
        account.setProperty("socketTimeout", String.valueOf(Sessions.ANSWER_SECONDS));
        account.setProperty("cancelSignalTimeout", String.valueOf(CONNECT_SECONDS));
        account.setProperty("tcpKeepAlive", "true");
        encrypt(settings);
        account.setProperty("ApplicationName", "nachlauf");
        // server messages would carry values of rows into stack traces
        account.setProperty("logServerErrorDetail", "false");
    }

    private void encrypt(Settings settings) {
        Tls tls = Tls.of(settings);
        account.setProperty(
                "sslmode",
                switch (tls) {
                    case OFF -> "disable";
                    case REQUIRE -> "require";
                    case VERIFY -> "verify-full";
                });
        if (tls == Tls.VERIFY) {
            Tls.authority(settings)
                    .ifPresentOrElse(
                            file -> account.setProperty("sslrootcert", file),
                            () -> account.setProperty("sslfactory", DefaultJavaSSLFactory.class.getName()));
        }
    }

    /** The server for people. */
    String shown() {
        return "PostgreSQL at " + host + ":" + port;
    }

    /** A new connection; a failure says why there is none. */
    Connection connect() {
        String url =
                "jdbc:postgresql://" + host + ":" + port + "/" + URLEncoder.encode(database, StandardCharsets.UTF_8);
        try {
            Connection connection = new Driver().connect(url, account);
            if (connection == null) {
                throw new IllegalStateException("the driver does not know its own address");
            }
            return connection;
        } catch (SQLException e) {
            throw Tls.isRefused(e) || isNotWhoItShouldBe(e) ? Tls.refused(shown()) : Sql.cannotGoOn(shown(), e);
        }
    }

    /** The driver tells a server without TLS, or with the certificate of another host, by state and without a cause. */
    private boolean isNotWhoItShouldBe(SQLException e) {
        boolean told = PSQLState.CONNECTION_REJECTED.getState().equals(e.getSQLState())
                || PSQLState.CONNECTION_FAILURE.getState().equals(e.getSQLState());
        return told && e.getCause() == null && !account.getProperty("sslmode").equals("disable");
    }
}

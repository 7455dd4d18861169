package dev.nachlauf.contract.mariadb;

import dev.nachlauf.standins.certificate.OwnCertificate;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** A MariaDB server of our own: real, on a free loopback port, gone when the tests are done. */
public final class PrivateMariadb implements AutoCloseable {
    /** The account that may do everything. */
    public static final String ACCOUNT = "tester";

    /** Its password. */
    public static final String PASSWORD = "s3cret";

    private static final String INIT = "init.sql";
    private static final String KEY = "server.key";
    private static final String CERTIFICATE = "server.crt";
    private static final String USER = System.getProperty("user.name");
    private static final Duration PATIENCE = Duration.ofSeconds(60);

    private final Path folder;
    private final int port;
    private Process server;

    private PrivateMariadb(Path folder, int port, Process server) {
        this.folder = folder;
        this.port = port;
        this.server = server;
    }

    /** Creates and starts a server with a database {@link #ACCOUNT}. */
    public static PrivateMariadb start() {
        try {
            Path folder = Files.createTempDirectory("nachlauf-mariadb");
            run(List.of(
                    "mariadb-install-db",
                    "--no-defaults",
                    "--auth-root-authentication-method=normal",
                    "--skip-test-db",
                    "--user=" + USER,
                    "--datadir=" + folder.resolve("data")));
            Files.writeString(
                    folder.resolve(INIT),
                    "CREATE DATABASE IF NOT EXISTS " + ACCOUNT + ";\nCREATE USER IF NOT EXISTS " + ACCOUNT
                            + "@'127.0.0.1' IDENTIFIED BY '" + PASSWORD + "';\nGRANT ALL ON *.* TO " + ACCOUNT
                            + "@'127.0.0.1' WITH GRANT OPTION;\n");
            int port = PrivateCluster.freePort();
            Process server = server(folder, port);
            PrivateMariadb started = new PrivateMariadb(folder, port, server);
            Runtime.getRuntime().addShutdownHook(new Thread(started::close));
            started.await();
            return started;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static Process server(Path folder, int port) throws IOException {
        List<String> command = new ArrayList<>(List.of(
                "mariadbd",
                "--no-defaults",
                "--user=" + USER,
                "--datadir=" + folder.resolve("data"),
                // a server that starts clears the temporary tables away that it finds
                "--tmpdir=" + folder,
                "--bind-address=127.0.0.1",
                "--port=" + port,
                "--socket=" + folder.resolve("s"),
                "--skip-name-resolve",
                "--character-set-server=utf8mb4",
                // moments are those of UTC, wherever a server thinks it is
                "--default-time-zone=+05:30",
                "--init-file=" + folder.resolve(INIT)));
        Path key = folder.resolve(KEY);
        if (Files.exists(key)) {
            command.addAll(List.of("--ssl-key=" + key, "--ssl-cert=" + folder.resolve(CERTIFICATE)));
        }
        return new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("log").toFile())
                .start();
    }

    private static void run(List<String> command) throws IOException {
        Process process = new ProcessBuilder(new ArrayList<>(command))
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start();
        try {
            if (process.waitFor() != 0) {
                throw new IllegalStateException("failed: " + command);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }

    /** Ends the server as a power cut does. */
    public void kill() {
        server.destroyForcibly();
        ended();
    }

    /** Starts a server again that was ended, over what it has written. */
    public void startAgain() {
        try {
            server = server(folder, port);
            await();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /**
     * Starts the server again with TLS, under the name localhost.
     *
     * @return the certificate, which nobody else has signed
     */
    public Path offerTls() {
        Path certificate = folder.resolve(CERTIFICATE);
        try {
            run(OwnCertificate.call(folder.resolve(KEY), certificate));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        close();
        startAgain();
        return certificate;
    }

    /** The server's process, for those who hinder it. */
    public long pid() {
        return server.pid();
    }

    private void await() throws IOException {
        Instant end = Instant.now().plus(PATIENCE);
        while (true) {
            try (Connection connection = connect()) {
                return;
            } catch (SQLException e) {
                if (!server.isAlive() || Instant.now().isAfter(end)) {
                    throw new IllegalStateException(Files.readString(folder.resolve("log")), e);
                }
                Thread.onSpinWait();
            }
        }
    }

    private Connection connect() throws SQLException {
        return connect(ACCOUNT);
    }

    /** A connection past our connector. */
    public Connection connect(String database) throws SQLException {
        return DriverManager.getConnection("jdbc:mariadb://127.0.0.1:" + port + "/" + database, ACCOUNT, PASSWORD);
    }

    public int port() {
        return port;
    }

    public void createDatabase(String name) {
        execute(ACCOUNT, "CREATE DATABASE " + name);
    }

    /** The first column of the first row. */
    public String query(String database, String sql) {
        try (Connection connection = connect(database);
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(sql)) {
            row.next();
            return row.getString(1);
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Runs statements, one after the other. */
    public void execute(String database, String... statements) {
        try (Connection connection = connect(database);
                Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    @Override
    public void close() {
        server.destroy();
        ended();
    }

    private void ended() {
        try {
            server.waitFor();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}

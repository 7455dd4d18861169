package dev.nachlauf.standins.postgresql;

import dev.nachlauf.standins.certificate.OwnCertificate;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.BindException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.ThreadLocalRandom;
import java.util.stream.Stream;

/** A PostgreSQL cluster of our own: real, on a free loopback port, gone when the tests are done. */
public final class PrivateCluster implements AutoCloseable {
    /** The superuser, who needs no password on loopback. */
    public static final String ADMIN = "tester";

    /** Ports that no outgoing connection gets by itself: what is free now is free when a server starts there. */
    private static final int LOWEST_PORT = 20_000;

    private static final int HIGHEST_PORT = 32_000;

    private static final boolean ROOT = "root".equals(System.getProperty("user.name"));

    private final Path folder;
    private final Path bin;
    private final int port;

    private PrivateCluster(Path folder, Path bin, int port) {
        this.folder = folder;
        this.bin = bin;
        this.port = port;
    }

    /** Creates and starts a cluster. */
    public static PrivateCluster start() {
        try {
            Path folder = Files.createTempDirectory("nachlauf-cluster");
            PrivateCluster cluster = new PrivateCluster(folder, newestBin(), freePort());
            if (ROOT) {
                run(List.of("chown", "postgres", folder.toString()));
            }
            cluster.asOwner(
                    "initdb", "-N", "-D", cluster.data(), "-U", ADMIN, "-A", "trust", "-E", "UTF8", "--locale=C.UTF-8");
            cluster.startAgain();
            Runtime.getRuntime().addShutdownHook(new Thread(cluster::close));
            return cluster;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static Path newestBin() throws IOException {
        try (Stream<Path> versions = Files.list(Path.of("/usr/lib/postgresql"))) {
            return versions.max(Comparator.comparingInt(
                            version -> Integer.parseInt(version.getFileName().toString())))
                    .orElseThrow()
                    .resolve("bin");
        }
    }

    /** A loopback port that nobody uses now. */
    public static int freePort() {
        while (true) {
            int port = ThreadLocalRandom.current().nextInt(LOWEST_PORT, HIGHEST_PORT);
            try (ServerSocket socket = new ServerSocket(port, 1, InetAddress.getLoopbackAddress())) {
                return socket.getLocalPort();
            } catch (BindException e) {
                // somebody listens there
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }

    private String data() {
        return folder.resolve("data").toString();
    }

    /** Starts the server, also after {@link #kill}. */
    public void startAgain() {
        asOwner(
                "pg_ctl",
                "-D",
                data(),
                "-w",
                "-l",
                folder.resolve("log").toString(),
                "-o",
                // what is not synchronised survives all but the machine: a killed server loses nothing by it; many
                // services of
                // tests that run side by side hold a pool of connections each
                "-c listen_addresses=127.0.0.1 -c port=" + port
                        + " -c unix_socket_directories='' -c max_connections=300 -c fsync=off",
                "start");
    }

    /** Stops the server as a power cut would: nothing is finished, nothing is said. */
    public void kill() {
        asOwner("pg_ctl", "-D", data(), "-m", "immediate", "-w", "stop");
    }

    public int port() {
        return port;
    }

    public String url(String database) {
        return "jdbc:postgresql://127.0.0.1:" + port + "/" + database;
    }

    /** Creates an empty database. */
    public void createDatabase(String name) {
        execute("postgres", "CREATE DATABASE " + name);
    }

    /** Runs statements. */
    public void execute(String database, String sql) {
        try (Connection connection = connect(database);
                Statement statement = connection.createStatement()) {
            statement.execute(sql);
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    /** The first value of a query, as text. */
    public String query(String database, String sql) {
        try (Connection connection = connect(database);
                Statement statement = connection.createStatement();
                var row = statement.executeQuery(sql)) {
            row.next();
            return String.valueOf(row.getString(1));
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    public Connection connect(String database) throws SQLException {
        return DriverManager.getConnection(url(database), ADMIN, "");
    }

    /** From now on the server offers TLS, as {@code localhost}; its certificate, which it has signed itself. */
    public Path offerTls() {
        Path certificate = Path.of(data(), "server.crt");
        run(owned(OwnCertificate.call(Path.of(data(), "server.key"), certificate)));
        execute("postgres", "ALTER SYSTEM SET ssl = on");
        execute("postgres", "SELECT pg_reload_conf()");
        return certificate;
    }

    private void asOwner(String program, String... arguments) {
        List<String> command = new ArrayList<>(List.of(bin.resolve(program).toString()));
        command.addAll(List.of(arguments));
        run(owned(command));
    }

    private static List<String> owned(List<String> command) {
        List<String> call = new ArrayList<>(ROOT ? List.of("runuser", "-u", "postgres", "--") : List.of());
        call.addAll(command);
        return call;
    }

    private static void run(List<String> command) {
        try {
            // the server must not inherit a pipe: whoever reads it to its end would wait for ever
            Process process = new ProcessBuilder(command)
                    .directory(Path.of("/").toFile())
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
            if (process.waitFor() != 0) {
                throw new IllegalStateException("failed: " + String.join(" ", command));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }

    @Override
    public void close() {
        if (!Files.exists(folder)) {
            return;
        }
        try {
            kill();
        } catch (IllegalStateException e) {
            // it is down already
        }
        try (Stream<Path> files = Files.walk(folder)) {
            files.sorted(Comparator.reverseOrder())
                    .forEach(file -> file.toFile().delete());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

package dev.nachlauf.service;

import dev.nachlauf.api.RunView;
import dev.nachlauf.api.StartRun;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.run.RunViews;
import dev.nachlauf.service.run.Runs;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import dev.nachlauf.standins.service.ServiceDatabase;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.atomic.AtomicInteger;
import javax.sql.DataSource;
import org.awaitility.Awaitility;
import org.awaitility.core.ConditionFactory;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.SpringApplication;
import org.springframework.context.ConfigurableApplicationContext;

/**
 * The real service in this process, over a database of its own in the module's cluster. A start takes longer than most tests,
 * so one that is closed is emptied and lent to the next class, if all that it did has come to an end.
 */
public final class ServiceUnderTest implements AutoCloseable {
    private static final AtomicInteger NUMBERS = new AtomicInteger();
    private static final Path FOLDER = newHome();
    /** Whether beans are those that the build has found. */
    private static final String AS_BUILT = "spring.aot.enabled";

    /** One service starts after the other, for where its beans come from is a setting of the whole process. */
    private static final Object STARTS = new Object();

    private static PrivateCluster cluster;

    private static final Deque<Running> IDLE = new ArrayDeque<>();

    private final Running running;
    private final boolean lent;

    /** A service that runs. */
    private record Running(String database, Path home, ConfigurableApplicationContext context) {
        static Running fresh() {
            String database = "service_" + NUMBERS.incrementAndGet();
            Path home = newHome();
            ServiceDatabase.create(cluster(), database);
            return new Running(database, home, start(database, home));
        }

        /** One that finds its beans at its start, those that describe the interface among them: the build leaves these out. */
        static Running describing() {
            synchronized (STARTS) {
                String before = System.setProperty(AS_BUILT, "false");
                try {
                    return fresh();
                } finally {
                    System.setProperty(AS_BUILT, Objects.requireNonNullElse(before, "false"));
                }
            }
        }
    }

    /** One that may have served others, and will; of what they did, kept files are left in its folder. */
    public ServiceUnderTest() {
        this(Objects.requireNonNullElseGet(idle(), Running::fresh), true);
    }

    private ServiceUnderTest(Running running, boolean lent) {
        this.running = running;
        this.lent = lent;
    }

    /** One of its own that describes its interface. */
    public static ServiceUnderTest describing() {
        return new ServiceUnderTest(Running.describing(), false);
    }

    /** One that nobody else has, as at its first start; closed, it is ended. */
    public static ServiceUnderTest own() {
        return new ServiceUnderTest(Running.fresh(), false);
    }

    private static synchronized @Nullable Running idle() {
        return IDLE.poll();
    }

    private static synchronized void lend(Running running) {
        IDLE.push(running);
    }

    public static synchronized PrivateCluster cluster() {
        if (cluster == null) {
            cluster = PrivateCluster.start();
        }
        return cluster;
    }

    /** A folder that connections may read. */
    public static Path folder() {
        return FOLDER;
    }

    public static Path newHome() {
        try {
            return Files.createTempDirectory("nachlauf-home");
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Starts a service over a database that may have been used before. */
    public static ConfigurableApplicationContext start(String database, Path home) {
        SpringApplication service = new SpringApplication(NachlaufService.class);
        // what the build has found is named after it
        service.setMainApplicationClass(NachlaufService.class);
        synchronized (STARTS) {
            return service.run(
                    "--server.port=0",
                    "--nachlauf.batch-rows=100",
                    // the build makes the interface's description with the help of such a service
                    "--springdoc.paths-to-match=/api/v1/**",
                    "--springdoc.default-produces-media-type=application/json",
                    "--logging.level.org.springdoc.core.events=error",
                    "--nachlauf.heartbeat=400ms",
                    "--nachlauf.end-patience=500ms",
                    "--nachlauf.home=" + home,
                    "--nachlauf.folders=" + FOLDER,
                    "--spring.datasource.url=" + cluster().url(database),
                    "--spring.datasource.username=" + PrivateCluster.ADMIN,
                    "--spring.datasource.password=");
        }
    }

    public <T> T bean(Class<T> type) {
        return running.context.getBean(type);
    }

    public <T> T bean(String name, Class<T> type) {
        return running.context.getBean(name, type);
    }

    /** The address of the network interface. */
    public String address() {
        return "http://127.0.0.1:" + running.context.getEnvironment().getProperty("local.server.port") + "/api/v1";
    }

    /** A request with the token of the first start. */
    public HttpRequest.Builder request(String path) {
        return HttpRequest.newBuilder(URI.create(address() + path)).header("Authorization", "Bearer " + token());
    }

    public String token() {
        try {
            return Files.readString(running.home.resolve("token")).strip();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    public String database() {
        return running.database;
    }

    public Path home() {
        return running.home;
    }

    public void execute(String sql) {
        try (Connection connection = bean(DataSource.class).getConnection();
                Statement statement = connection.createStatement()) {
            statement.execute(sql);
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Waits for what another thread or process does; whoever waits too long says so. */
    public static ConditionFactory patiently() {
        return Awaitility.await()
                .pollInSameThread()
                .pollDelay(Duration.ZERO)
                .pollInterval(Duration.ofMillis(5))
                .atMost(Duration.ofMinutes(5));
    }

    /** From now on the scheduler carries out nothing: what a test schedules or keeps stays as it is. */
    public void holdTasks() {
        execute("""
                CREATE FUNCTION later() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
                  NEW.execution_time := now() + interval '1 day'; RETURN NEW; END $$;
                CREATE TRIGGER later BEFORE INSERT OR UPDATE ON scheduled_tasks FOR EACH ROW EXECUTE FUNCTION later();
                UPDATE scheduled_tasks SET version = version + 1 WHERE NOT picked""");
        patiently()
                .until(() -> query("SELECT count(*) FROM scheduled_tasks WHERE picked")
                        .equals("0"));
    }

    private boolean tasksAreHeld() {
        return query("SELECT count(*) FROM pg_trigger WHERE tgname = 'later'").equals("1");
    }

    /** What was held is carried out now. */
    public void releaseTasks() {
        execute("""
                DROP TRIGGER later ON scheduled_tasks;
                DROP FUNCTION later;
                UPDATE scheduled_tasks SET execution_time = now(), version = version + 1 WHERE NOT picked""");
    }

    /** Saves the connections {@code register}, a database of the tests' cluster, and {@code inbox}, a folder of theirs. */
    public void connect(String register) {
        connect(register, cluster());
        bean(Connections.class).save("inbox.yaml", """
                nachlauf: 1
                connection: inbox
                type: folder
                settings: { path: %s }
                """.formatted(FOLDER), "test");
    }

    /** Saves the connection {@code register} to a database of this cluster. */
    public void connect(String register, PrivateCluster where) {
        bean(Connections.class)
                .save("register.yaml", """
                nachlauf: 1
                connection: register
                type: postgresql
                settings: { port: %d, database: %s, user: %s }
                """.formatted(where.port(), register, PrivateCluster.ADMIN), "test");
    }

    /** Keeps a file as an upload does; the result is its hash. */
    public String keep(String name, byte[] file) {
        try {
            return bean(FileStore.class)
                    .keep(name, new ByteArrayInputStream(file))
                    .hash();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Starts a run that somebody asks for, and waits until it has ended or is held. */
    public RunView run(StartRun asked, String by) {
        return settled(bean(Runs.class).start(asked, by).id());
    }

    /** Starts a run over a file of these bytes, which is kept under a name, and waits likewise. */
    public RunView run(String job, String name, byte[] file, @Nullable String mode) {
        return run(new StartRun(job, keep(name, file), name, Map.of(), mode), "Wenna");
    }

    /** A run when it has ended or is held. A look at all of it costs the machine more than it does the run. */
    public RunView settled(long id) {
        List<String> unsettled = List.of("waiting", "running");
        patiently().until(() -> !unsettled.contains(query("SELECT state FROM run WHERE id = " + id)));
        return patiently()
                .until(
                        () -> bean(RunViews.class).show(id),
                        run -> run.ended() || run.state().equals("held"));
    }

    /** A run, as it would be kept. One that the service would carry out needs its tasks held, or it may do so at any time. */
    public void keepRun(long id, String state) {
        if (List.of("waiting", "running").contains(state) && !tasksAreHeld()) {
            throw new IllegalStateException("Hold the tasks first: a " + state + " run is carried out at any time.");
        }
        execute("INSERT INTO job (id, name, latest) VALUES (%1$d, 'hut-list-%1$d', 1)".formatted(id));
        execute("""
                INSERT INTO run (id, job_id, job_name, job_version, state, epoch, stop_requested, beyond_limit, note, reasons,
                    write_name, target_connection, target_records, target_description, fields, key_fields, parameters,
                    rows_read, started_by, created_at, columns)
                VALUES (%1$d, %1$d, 'hut-list-%1$d', 1, '%2$s', 0, false, false, '', '[]', 'hut', 'register', 'hut', '', '[]',
                    '[]', '{}', 0, 'test', now(), '[]')""".formatted(id, state));
    }

    /** The first value of a query, as text. */
    public String query(String sql) {
        try (Connection connection = bean(DataSource.class).getConnection();
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(sql)) {
            row.next();
            return String.valueOf(row.getString(1));
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    @Override
    public void close() {
        if (lent && isFree()) {
            lend(running);
        } else {
            running.context.close();
        }
    }

    private boolean isFree() {
        ServiceDatabase database = new ServiceDatabase(cluster(), running.database);
        return !tasksAreHeld() && database.isAtRest() && database.empty();
    }
}

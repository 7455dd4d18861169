package dev.nachlauf.acceptance;

import static dev.nachlauf.acceptance.Patience.patiently;
import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.ProcessBuilder.Redirect;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/**
 * Nachlauf as it is installed: a database, a service, the client, a folder for files. Where the process is the point, the
 * service is one, and can be killed; elsewhere it lives in the tests' process, as the client does, and starts in a moment.
 */
public final class Installation implements AutoCloseable {
    public static final JsonMapper JSON = JsonMapper.builder().build();
    public static final Path TOP = Path.of(System.getProperty("basedir", "."))
            .toAbsolutePath()
            .normalize()
            .getParent();
    /** Every process of tests has it as NACHLAUF_SECRET_REGISTER. */
    public static final String SECRET = "s3cret-of-the-register";

    private static final AtomicInteger SHARED = new AtomicInteger();
    /** Classes that run side by side would meet each other's runs. */
    private static final ThreadLocal<Installation> SHARED_HERE = ThreadLocal.withInitial(Installation::withDemo);

    public final PrivateCluster cluster;
    public final Path home;
    /** The state folder. */
    public final Path state;

    public final Path inbox;
    public final String serviceDatabase;
    public final String register;
    private final Map<String, String> settings;
    private final int port;
    private final HttpClient http = HttpClient.newHttpClient();
    private @Nullable Process process;
    private final @Nullable ServiceHere here;

    public Installation(PrivateCluster cluster, String name) {
        this(cluster, name, Map.of());
    }

    /** @param settings further variables of the service */
    public Installation(PrivateCluster cluster, String name, Map<String, String> settings) {
        this(cluster, name, settings, newFolder("nachlauf-home"), "service_" + name, null);
        cluster.createDatabase(serviceDatabase);
    }

    private Installation(String name, ServiceHere here) {
        this(
                sharedCluster(),
                name,
                Map.of(),
                folderIn(ServiceHere.HOMES, name),
                here.database().name(),
                here);
    }

    private Installation(
            PrivateCluster cluster,
            String name,
            Map<String, String> settings,
            Path home,
            String serviceDatabase,
            @Nullable ServiceHere here) {
        this.cluster = cluster;
        this.settings = settings;
        this.home = home;
        this.serviceDatabase = serviceDatabase;
        this.here = here;
        this.register = "register_" + name;
        inbox = folderIn(home, "inbox");
        state = here == null ? folderIn(home, "state") : here.state();
        port = here == null ? PrivateCluster.freePort() : here.port();
        cluster.createDatabase(register);
    }

    private static Path folderIn(Path parent, String name) {
        try {
            return Files.createDirectory(parent.resolve(name));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    static Path newFolder(String name) {
        try {
            return Files.createTempDirectory(name);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** An installation with the demo's register, connections and job, for all classes of this thread that change nothing of it. */
    public static Installation shared() {
        return SHARED_HERE.get();
    }

    private static Installation withDemo() {
        Installation shared = own("shared_" + SHARED.incrementAndGet());
        shared.loadDemo();
        return shared;
    }

    /** An installation that one class of tests has for itself until it closes it, in the cluster of all; it runs and is empty. */
    public static Installation own(String name) {
        return new Installation(name, ServiceHere.empty());
    }

    /** The cluster of all classes that kill none. */
    public static PrivateCluster sharedCluster() {
        return SharedCluster.STARTED;
    }

    /** Started by whoever asks first; nobody who waits for it holds what another needs. */
    private static final class SharedCluster {
        static final PrivateCluster STARTED = PrivateCluster.start();
    }

    /** The demo's register, connections, crosswalks, pieces and first job. */
    public void loadDemo() {
        cluster.execute(register, read(TOP.resolve("demo-data/register.sql")));
        connect();
        for (String crosswalk : List.of("region", "hut-category")) {
            client(
                    "crosswalk",
                    "save",
                    TOP.resolve("demo-data/crosswalks/" + crosswalk + ".yaml").toString());
        }
        client("pieces", "save", TOP.resolve("demo-data/pieces/huts.yaml").toString());
        client("job", "save", TOP.resolve("demo-data/jobs/hut-list.yaml").toString());
    }

    /** Saves the connections {@code wardens-inbox} and {@code register}. */
    public void connect() {
        write(
                "wardens-inbox.yaml",
                "nachlauf: 1\nconnection: wardens-inbox\ntype: folder\nsettings: { path: " + inbox + ", quiet: 0 }\n");
        write("register.yaml", """
                nachlauf: 1
                connection: register
                type: postgresql
                settings:
                  port: %d
                  database: %s
                  user: %s
                  password: { env: NACHLAUF_SECRET_REGISTER }
                """.formatted(cluster.port(), register, PrivateCluster.ADMIN));
        client(
                "connection",
                "save",
                home.resolve("wardens-inbox.yaml").toString(),
                home.resolve("register.yaml").toString());
    }

    private Map<String, String> variables() {
        Map<String, String> variables = new HashMap<>(settings);
        variables.put("NACHLAUF_HOME", state.toString());
        variables.put("NACHLAUF_FOLDERS", home + "," + TOP.resolve("demo-data"));
        variables.put("NACHLAUF_PORT", String.valueOf(port));
        variables.put("NACHLAUF_DB_URL", cluster.url(serviceDatabase));
        variables.put("NACHLAUF_DB_USER", PrivateCluster.ADMIN);
        variables.put("NACHLAUF_DB_PASSWORD", "");
        return variables;
    }

    /** Starts the service as a process; {@code pauseAt} names points at which it stands still, such as {@code stays/before-ledger:2}. */
    public void start(String pauseAt) {
        List<String> options = new ArrayList<>(Programs.warm());
        options.add("-Xmx512m");
        try {
            ProcessBuilder builder = new ProcessBuilder(Programs.service(options))
                    .redirectErrorStream(true)
                    .redirectOutput(Redirect.appendTo(log().toFile()));
            builder.environment().putAll(variables());
            builder.environment().put("NACHLAUF_PAUSE_AT", pauseAt);
            process = builder.start();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        patiently().pollInterval(Duration.ofMillis(200)).until(this::isReady);
    }

    /** Waits until it stands still at one of the points. */
    public void awaitPause(String point) {
        patiently().until(() -> read(log()).contains("paused at " + point));
    }

    private boolean isReady() {
        if (!Objects.requireNonNull(process).isAlive()) {
            throw new IllegalStateException("the service did not start: " + read(log()));
        }
        try {
            return get("/../../actuator/health").statusCode() == 200;
        } catch (UncheckedIOException e) {
            return false;
        }
    }

    /** What the service says. */
    public Path log() {
        return here == null ? home.resolve("service.log") : ServiceHere.LOG_OF_ALL;
    }

    /** As kill -9 does. */
    public void kill() {
        Process killed = Objects.requireNonNull(process).destroyForcibly();
        try {
            killed.waitFor();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    public String address() {
        return "http://127.0.0.1:" + port;
    }

    /** A call of the client. */
    public Result client(String... arguments) {
        return clientAt(address(), arguments);
    }

    /** Saves a document of a group such as {@code job}; the name is its file's. */
    public void save(String group, String name, String document) {
        Result saved = client(group, "save", write(name + ".yaml", document).toString());
        assertThat(saved.status()).as(saved.err()).isZero();
    }

    /** Starts a run over a file of its own with this text; the result is its number. */
    public String startRun(String job, String csv) {
        Result run = client(
                "--output",
                "json",
                "run",
                "start",
                job,
                "--file",
                write(job + ".csv", csv).toString());
        assertThat(run.status()).as(run.err()).isZero();
        return run.json().get("id").asString();
    }

    /** The client as a person at a terminal has it, who answers its questions. */
    public Result clientAnswered(String answers, String... arguments) {
        return Client.call(
                home,
                answers,
                Map.of("NACHLAUF_ASKS", "1", "NACHLAUF_SERVER", address(), "NACHLAUF_TOKEN", token()),
                arguments);
    }

    /** The client behind a pipe. */
    public Result clientReading(String input, String... arguments) {
        return Client.call(home, input, clientVariables(address()), arguments);
    }

    public Result clientAt(String server, String... arguments) {
        return Client.call(home, "", clientVariables(server), arguments);
    }

    /** The variables by which a client finds a service and may call it. */
    public Map<String, String> clientVariables(String server) {
        return Map.of("NACHLAUF_SERVER", server, "NACHLAUF_TOKEN", token());
    }

    private HttpRequest.Builder request(String path) {
        return HttpRequest.newBuilder(URI.create(address() + "/api/v1" + path).normalize())
                .header("Authorization", "Bearer " + token());
    }

    /** The token of the first start; empty before it. */
    public String token() {
        Path file = state.resolve("token");
        return Files.exists(file) ? read(file).strip() : "";
    }

    /** A call of the network interface. */
    public HttpResponse<String> get(String path, String... headers) {
        HttpRequest.Builder request = request(path);
        if (headers.length > 0) {
            request.headers(headers);
        }
        return send(request.GET().build());
    }

    public HttpResponse<String> post(String path, String body, String type) {
        return send(request(path)
                .header("Content-Type", type)
                .POST(HttpRequest.BodyPublishers.ofString(body))
                .build());
    }

    private HttpResponse<String> send(HttpRequest request) {
        try {
            return http.send(request, BodyHandlers.ofString());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }

    /** Writes a file into the home folder. */
    public Path write(String name, String text) {
        return write(name, text.getBytes(StandardCharsets.UTF_8));
    }

    public Path write(String name, byte[] bytes) {
        try {
            return Files.write(home.resolve(name), bytes);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    public static String read(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    public String count(String sql) {
        return cluster.query(register, sql);
    }

    @Override
    public void close() {
        if (here != null) {
            here.giveBack();
        }
        if (process != null && process.isAlive()) {
            process.destroy();
            try {
                process.waitFor(60, TimeUnit.SECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            process.destroyForcibly();
        }
    }
}

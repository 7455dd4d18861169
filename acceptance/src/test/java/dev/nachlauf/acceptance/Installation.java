package dev.nachlauf.acceptance;

import static org.awaitility.Awaitility.await;

import dev.nachlauf.contract.postgresql.PrivateCluster;
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
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Nachlauf as it is installed: a cluster, a service process, the client, a folder for files. */
final class Installation implements AutoCloseable {
    static final JsonMapper JSON = JsonMapper.builder().build();
    static final Path TOP = Path.of(System.getProperty("basedir", "."))
            .toAbsolutePath()
            .normalize()
            .getParent();
    static final String SECRET = "s3cret-of-the-register";
    private static Installation shared;

    final PrivateCluster cluster;
    final Path home;
    /** The state folder. */
    final Path state;

    final Path inbox;
    final String serviceDatabase;
    final String register;
    private final int port = PrivateCluster.freePort();
    private final HttpClient http = HttpClient.newHttpClient();
    private Process service;

    /** What a client process left behind. */
    record Result(int status, String out, String err) {
        JsonNode json() {
            return JSON.readTree(out);
        }

        List<JsonNode> lines() {
            return out.lines().map(JSON::readTree).toList();
        }
    }

    Installation(PrivateCluster cluster, String name) {
        this.cluster = cluster;
        this.serviceDatabase = "service_" + name;
        this.register = "register_" + name;
        try {
            home = Files.createTempDirectory("nachlauf-home");
            state = Files.createDirectory(home.resolve("state"));
            inbox = Files.createDirectory(home.resolve("inbox"));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        cluster.createDatabase(serviceDatabase);
        cluster.createDatabase(register);
    }

    /** One installation with the demo's register, connections and job, for all tests that change nothing of it. */
    static synchronized Installation shared() {
        if (shared == null) {
            shared = new Installation(PrivateCluster.start(), "shared");
            shared.start("");
            shared.loadDemo();
            Runtime.getRuntime().addShutdownHook(new Thread(shared::close));
        }
        return shared;
    }

    /** The demo's register, connections, crosswalks, pieces and first job. */
    void loadDemo() {
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
    void connect() {
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

    /** Starts the service; {@code pauseAt} names a point at which it stands still, or is empty. */
    void start(String pauseAt) {
        try {
            List<String> command = new ArrayList<>(List.of(java(), "-Xmx512m", "-XX:TieredStopAtLevel=1"));
            command.addAll(WarmStart.of("service"));
            command.addAll(List.of(
                    "--enable-native-access=ALL-UNNAMED",
                    "-cp",
                    TOP.resolve("service/target/lib") + "/*",
                    "dev.nachlauf.service.NachlaufService"));
            ProcessBuilder builder = new ProcessBuilder(command)
                    .redirectErrorStream(true)
                    .redirectOutput(Redirect.appendTo(log().toFile()));
            builder.environment()
                    .putAll(Map.of(
                            "NACHLAUF_HOME",
                            state.toString(),
                            "NACHLAUF_FOLDERS",
                            home + "," + TOP.resolve("demo-data"),
                            "NACHLAUF_PORT",
                            String.valueOf(port),
                            "NACHLAUF_DB_URL",
                            cluster.url(serviceDatabase),
                            "NACHLAUF_DB_USER",
                            PrivateCluster.ADMIN,
                            "NACHLAUF_DB_PASSWORD",
                            "",
                            "NACHLAUF_PAUSE_AT",
                            pauseAt,
                            "NACHLAUF_SECRET_REGISTER",
                            SECRET));
            service = builder.start();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        await().atMost(Duration.ofMinutes(2))
                .pollInterval(Duration.ofMillis(200))
                .until(this::isReady);
    }

    private boolean isReady() {
        if (!service.isAlive()) {
            throw new IllegalStateException("the service did not start: " + read(log()));
        }
        try {
            return get("/../../actuator/health").statusCode() == 200;
        } catch (UncheckedIOException e) {
            return false;
        }
    }

    Path log() {
        return home.resolve("service.log");
    }

    /** As kill -9 does. */
    void kill() {
        service.destroyForcibly();
        try {
            service.waitFor();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    String address() {
        return "http://127.0.0.1:" + port;
    }

    static String java() {
        return Path.of(System.getProperty("java.home"), "bin", "java").toString();
    }

    /** Runs the real client as a process. */
    Result client(String... arguments) {
        return clientAt(address(), arguments);
    }

    /** The client as a person at a terminal has it, who answers its questions. */
    Result clientAnswered(String answers, String... arguments) {
        return run(
                clientCommand(arguments),
                Map.of("NACHLAUF_SERVER", address(), "NACHLAUF_TOKEN", token(), "NACHLAUF_ASKS", "1"),
                Redirect.from(write("answers.txt", answers).toFile()));
    }

    /** The client behind a pipe. */
    Result clientReading(String input, String... arguments) {
        return run(
                clientCommand(arguments),
                Map.of("NACHLAUF_SERVER", address(), "NACHLAUF_TOKEN", token()),
                Redirect.from(write("input.txt", input).toFile()));
    }

    Result clientAt(String server, String... arguments) {
        return run(clientCommand(arguments), Map.of("NACHLAUF_SERVER", server, "NACHLAUF_TOKEN", token()));
    }

    static List<String> clientCommand(String... arguments) {
        List<String> command = new ArrayList<>(List.of(java(), "-XX:TieredStopAtLevel=1"));
        command.addAll(WarmStart.of("client"));
        command.addAll(List.of("-cp", TOP.resolve("cli/target/lib") + "/*", "dev.nachlauf.cli.Nachlauf"));
        command.addAll(List.of(arguments));
        return command;
    }

    static Result run(List<String> command, Map<String, String> environment) {
        return run(command, environment, Redirect.PIPE);
    }

    private static Result run(List<String> command, Map<String, String> environment, Redirect input) {
        try {
            Path out = Files.createTempFile("client", "out");
            Path err = Files.createTempFile("client", "err");
            ProcessBuilder builder = new ProcessBuilder(command)
                    .redirectInput(input)
                    .redirectOutput(out.toFile())
                    .redirectError(err.toFile());
            builder.environment().putAll(environment);
            Process process = builder.start();
            if (!process.waitFor(3, TimeUnit.MINUTES)) {
                process.destroyForcibly();
                throw new IllegalStateException("did not end: " + command);
            }
            Result result = new Result(process.exitValue(), read(out), read(err));
            Files.delete(out);
            Files.delete(err);
            return result;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }

    private HttpRequest.Builder request(String path) {
        return HttpRequest.newBuilder(URI.create(address() + "/api/v1" + path).normalize())
                .header("Authorization", "Bearer " + token());
    }

    /** The token of the first start; empty before it. */
    String token() {
        Path file = state.resolve("token");
        return Files.exists(file) ? read(file).strip() : "";
    }

    /** A call of the network interface. */
    HttpResponse<String> get(String path, String... headers) {
        HttpRequest.Builder request = request(path);
        if (headers.length > 0) {
            request.headers(headers);
        }
        return send(request.GET().build());
    }

    HttpResponse<String> post(String path, String body, String type) {
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
    Path write(String name, String text) {
        return write(name, text.getBytes(StandardCharsets.UTF_8));
    }

    Path write(String name, byte[] bytes) {
        try {
            return Files.write(home.resolve(name), bytes);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    static String read(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    String count(String sql) {
        return cluster.query(register, sql);
    }

    @Override
    public void close() {
        if (service != null && service.isAlive()) {
            service.destroy();
            try {
                // the first one to end leaves its classes to the others, which takes a while
                service.waitFor(30, TimeUnit.SECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            service.destroyForcibly();
        }
    }
}

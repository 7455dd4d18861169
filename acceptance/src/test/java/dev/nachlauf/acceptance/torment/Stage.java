package dev.nachlauf.acceptance.torment;

import dev.nachlauf.acceptance.Programs;
import dev.nachlauf.contract.mariadb.PrivateMariadb;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.ProcessBuilder.Redirect;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Two clusters, of which one holds the target and the other the service's own database and an annex, and two services. */
final class Stage implements AutoCloseable {
    private static final String SECRET = "NACHLAUF_SECRET_MART";
    private static final String JSON_TYPE = "application/json";

    /** The connection to the register in which a round's table has a sensitive field. */
    static final String GUARDED = "guarded";

    private static final boolean IS_ROOT = "root".equals(System.getProperty("user.name"));
    static final JsonMapper JSON = JsonMapper.builder().build();

    /** Within this time one of the services answers, even where both have to start on a busy machine. */
    private static final Duration ANSWERS = Duration.ofMinutes(5);

    final PrivateCluster target = PrivateCluster.start();
    final PrivateCluster own = PrivateCluster.start();
    final Place register = new PostgresqlPlace(target, "register");
    final Place annex = new PostgresqlPlace(own, "annex");
    final List<Service> services = new ArrayList<>();
    private @Nullable MariadbPlace mart;

    /** The token of somebody who starts nothing, but decides about runs, and sees everything. */
    private @Nullable String another;

    private final Path home;
    private final HttpClient http =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(5)).build();

    Stage() {
        try {
            home = Files.createTempDirectory("nachlauf-torment");
            Files.createDirectories(outbox());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        target.createDatabase("register");
        own.createDatabase("service");
        own.createDatabase("annex");
        target.execute("register", """
                CREATE TABLE valley (code text PRIMARY KEY, title text);
                INSERT INTO valley SELECT 'V' || n, 'Valley ' || n FROM generate_series(0, 19) n;
                CREATE FUNCTION tidy() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
                  NEW.name := replace(NEW.name, '7', '1'); RETURN NEW; END $$;""");
        mount(smallDisk(), "96m");
        mount(targetDisk(), "512m");
        if (IS_ROOT) {
            run("chown", "postgres", targetDisk().toString());
            run("chmod", "711", home.toString());
            target.execute("register", "CREATE TABLESPACE small LOCATION '" + targetDisk() + "'");
            target.execute("register", "ALTER DATABASE register SET default_tablespace = small");
        }
        services.add(new Service());
        services.add(new Service());
        services.forEach(Service::start);
        services.forEach(Service::awaitReady);
        connection("inbox", "folder", "path: " + home.resolve("inbox"));
        connection("register", "postgresql", "port: " + target.port() + ", database: register, user: tester");
        connection("annex", "postgresql", "port: " + own.port() + ", database: annex, user: tester");
        connection("outbox", "folder", "path: " + outbox());
        another = post("/tokens", "{\"name\":\"another\",\"role\":\"administer\",\"seesSensitive\":true}")
                .body()
                .get("secret")
                .asString();
    }

    /** Where jobs leave files, or change them. */
    Path outbox() {
        return home.resolve("inbox/outbox");
    }

    /** Puts a file there. */
    void write(String name, String text) {
        try {
            Files.writeString(outbox().resolve(name), text);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** The notes of the job's table are sensitive for who writes by this connection. */
    void guard(RandomJob job) {
        String marks = "marks:\n";
        for (boolean twin : new boolean[] {true, false}) {
            marks += "  " + job.table(twin) + ": { note: { sensitive: true } }\n";
        }
        connection(GUARDED, "postgresql", "port: " + target.port() + ", database: register, user: tester", marks);
    }

    /** Where a job writes first. */
    Place place(RandomJob job) {
        return job.mariadb ? mart() : register;
    }

    private Place mart() {
        if (mart == null) {
            mart = new MariadbPlace();
            connection(
                    mart.connection(),
                    "mariadb",
                    "port: " + mart.server.port() + ", database: " + PrivateMariadb.ACCOUNT + ", user: "
                            + PrivateMariadb.ACCOUNT + ", password: { env: " + SECRET + " }");
        }
        return mart;
    }

    private void connection(String name, String type, String settings) {
        connection(name, type, settings, "");
    }

    private void connection(String name, String type, String settings, String marks) {
        Answer saved = post(
                "/connections",
                "application/yaml",
                ("nachlauf: 1\nconnection: " + name + "\ntype: " + type + "\nsettings: { " + settings + " }\n" + marks)
                        .getBytes());
        if (saved.status() >= 300) {
            throw new IllegalStateException(String.valueOf(saved.body()));
        }
    }

    /** Where the services keep their files: a disk of its own that is easily filled, where we may mount one. */
    Path smallDisk() {
        return home.resolve("home");
    }

    /** Where the tables lie that jobs write to, in PostgreSQL: a disk of its own as well. */
    Path targetDisk() {
        return home.resolve("tables");
    }

    private static void mount(Path folder, String size) {
        try {
            Files.createDirectories(folder);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        if (IS_ROOT) {
            run("mount", "-t", "tmpfs", "-o", "size=" + size, "tmpfs", folder.toString());
        }
    }

    /** Kept files of rounds that are over: in the end they would fill the small disk by themselves. */
    void forgetFiles() {
        try (Stream<Path> kept = Files.walk(smallDisk().resolve("files"))) {
            for (Path file : kept.filter(Files::isRegularFile).toList()) {
                Files.delete(file);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static void run(String... command) {
        try {
            new ProcessBuilder(command)
                    .redirectErrorStream(true)
                    .redirectOutput(Redirect.DISCARD)
                    .start()
                    .waitFor();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** A service process. */
    final class Service {
        private final int port = PrivateCluster.freePort();
        private Process process;

        void start() {
            List<String> options = new ArrayList<>(Programs.warm());
            options.add("-Xmx256m");
            List<String> command = Programs.service(options);
            ProcessBuilder builder = new ProcessBuilder(command)
                    .redirectErrorStream(true)
                    .redirectOutput(Redirect.appendTo(
                            home.resolve("service-" + port + ".log").toFile()));
            builder.environment()
                    .putAll(Map.of(
                            "NACHLAUF_HOME",
                            smallDisk().toString(),
                            "NACHLAUF_FOLDERS",
                            home.resolve("inbox").toString(),
                            "NACHLAUF_PORT",
                            String.valueOf(port),
                            "NACHLAUF_DB_URL",
                            own.url("service"),
                            "NACHLAUF_DB_USER",
                            PrivateCluster.ADMIN,
                            "NACHLAUF_PATIENCE",
                            "60s",
                            "NACHLAUF_HEARTBEAT",
                            "400ms",
                            "NACHLAUF_ASK_AGAIN",
                            "1s",
                            "NACHLAUF_BATCH_ROWS",
                            "300",
                            SECRET,
                            PrivateMariadb.PASSWORD));
            try {
                process = builder.start();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }

        boolean isUp() {
            try {
                return process.isAlive()
                        && send(HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/actuator/health"))
                                                .timeout(Duration.ofSeconds(5))
                                                .GET()
                                                .build())
                                        .statusCode()
                                == 200;
            } catch (UncheckedIOException e) {
                return false;
            }
        }

        void awaitReady() {
            until(Duration.ofMinutes(2), "the service starts", () -> {
                if (!process.isAlive()) {
                    start();
                }
                return isUp();
            });
        }

        void kill() {
            process.destroyForcibly();
            try {
                process.waitFor();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }

        /** As an ordinary end of the process. */
        void end() {
            process.destroy();
            try {
                if (!process.waitFor(2, TimeUnit.MINUTES)) {
                    kill();
                }
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }

        void signal(String signal) {
            Stage.signal(signal, process.pid());
        }
    }

    static void signal(String signal, long pid) {
        run("kill", "-" + signal, String.valueOf(pid));
    }

    static void until(Duration atMost, String what, BooleanSupplier done) {
        long end = System.nanoTime() + atMost.toNanos();
        while (!done.getAsBoolean()) {
            if (System.nanoTime() > end) {
                throw new IllegalStateException("did not happen within " + atMost.toSeconds() + " s: " + what);
            }
            pause(100);
        }
    }

    static void pause(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
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

    private String ownToken() {
        try {
            return Files.readString(smallDisk().resolve("token")).strip();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Asks one service after the other until one answers. */
    private HttpResponse<String> anywhere(HttpRequest.Builder request, String path, String token) {
        UncheckedIOException last = null;
        long end = System.nanoTime() + ANSWERS.toNanos();
        for (int attempt = 0; System.nanoTime() < end; attempt++) {
            Service service = services.get(attempt % services.size());
            try {
                HttpResponse<String> answer =
                        send(request.uri(URI.create("http://127.0.0.1:" + service.port + "/api/v1" + path))
                                .setHeader("Authorization", "Bearer " + token)
                                .timeout(Duration.ofSeconds(20))
                                .build());
                if (answer.statusCode() != 503) {
                    return answer;
                }
            } catch (UncheckedIOException e) {
                last = e;
            }
            pause(100);
        }
        throw last == null ? new IllegalStateException("no service answers " + path) : last;
    }

    JsonNode get(String path) {
        HttpResponse<String> answer =
                anywhere(HttpRequest.newBuilder().GET(), path, another == null ? ownToken() : another);
        if (answer.statusCode() != 200) {
            throw new IllegalStateException(path + ": " + answer.statusCode() + " " + answer.body());
        }
        return JSON.readTree(answer.body());
    }

    /** An answer and its status. */
    record Answer(int status, JsonNode body) {}

    Answer post(String path, String json) {
        return post(path, JSON_TYPE, json.getBytes(StandardCharsets.UTF_8));
    }

    Answer post(String path, String type, byte[] body) {
        return post(path, type, body, ownToken());
    }

    /** What somebody else does than whoever starts the runs. */
    Answer postAsAnother(String path, String json) {
        return post(path, JSON_TYPE, json.getBytes(StandardCharsets.UTF_8), Objects.requireNonNull(another));
    }

    private Answer post(String path, String type, byte[] body, String token) {
        HttpResponse<String> answer = anywhere(
                HttpRequest.newBuilder().header("Content-Type", type).POST(BodyPublishers.ofByteArray(body)),
                path,
                token);
        return new Answer(answer.statusCode(), JSON.readTree(answer.body()));
    }

    /** All items of a list. */
    List<JsonNode> all(String path) {
        List<JsonNode> items = new ArrayList<>();
        String cursor = "";
        do {
            JsonNode page = get(path + (path.contains("?") ? "&" : "?") + "limit=1000" + cursor);
            page.get("items").forEach(items::add);
            cursor = page.hasNonNull("next") ? "&cursor=" + page.get("next").asString() : null;
        } while (cursor != null);
        return items;
    }

    @Override
    public void close() {
        services.forEach(service -> {
            service.signal("CONT");
            service.kill();
        });
        target.close();
        own.close();
        if (mart != null) {
            mart.close();
        }
        run("umount", smallDisk().toString());
        run("umount", targetDisk().toString());
    }
}

package dev.nachlauf.connectors.place.http;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.HoldsFiles.Conditional;
import dev.nachlauf.core.system.HoldsFiles.FoundFile;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.TakesFiles;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;

/** A real web server on loopback. */
@Execution(ExecutionMode.SAME_THREAD) // its tests share a host
class HttpPlaceTest {
    private static final String TAG = "\"v1\"";
    private static HttpServer server;
    private static volatile String delivered = "";

    @BeforeAll
    static void start() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/files/", HttpPlaceTest::answer);
        server.start();
    }

    private static void answer(HttpExchange exchange) throws IOException {
        try (exchange) {
            String name = exchange.getRequestURI().getPath().substring("/files/".length());
            String authorization = exchange.getRequestHeaders().getFirst("Authorization");
            switch (name) {
                case "huts.csv", "with space.csv" -> {
                    exchange.getResponseHeaders().add("ETag", TAG);
                    exchange.getResponseHeaders().add("Last-Modified", "Fri, 01 May 2026 10:00:00 GMT");
                    if (TAG.equals(exchange.getRequestHeaders().getFirst("If-None-Match"))) {
                        exchange.sendResponseHeaders(304, -1);
                    } else {
                        send(exchange, "code;name\nH-1;" + name + "\n");
                    }
                }
                case "secret.csv" -> {
                    if ("Bearer t0ken".equals(authorization) || "Basic YTpi".equals(authorization)) {
                        send(exchange, "code\n1\n");
                    } else {
                        exchange.sendResponseHeaders(401, -1);
                    }
                }
                case "out.csv" -> {
                    delivered = exchange.getRequestMethod() + " "
                            + new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
                    exchange.sendResponseHeaders(201, -1);
                }
                case "moved.csv" -> redirect(exchange, "/files/huts.csv");
                case "away.csv" -> redirect(exchange, "http://127.0.0.2:1/files/huts.csv");
                case "circle.csv" -> redirect(exchange, "/files/circle.csv");
                case "broken.csv" -> exchange.sendResponseHeaders(503, -1);
                default -> exchange.sendResponseHeaders(404, -1);
            }
        }
    }

    private static void redirect(HttpExchange exchange, String to) throws IOException {
        exchange.getResponseHeaders().add("Location", to);
        exchange.sendResponseHeaders(302, -1);
    }

    private static void send(HttpExchange exchange, String text) throws IOException {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        if (exchange.getRequestMethod().equals("HEAD")) {
            exchange.getResponseHeaders().add("Content-Length", String.valueOf(bytes.length));
            exchange.sendResponseHeaders(200, -1);
        } else {
            exchange.sendResponseHeaders(200, bytes.length);
            exchange.getResponseBody().write(bytes);
        }
    }

    @AfterAll
    static void stop() {
        server.stop(0);
    }

    private static Conditional open(Map<String, String> more) {
        Map<String, String> settings = new HashMap<>(
                Map.of("address", "http://127.0.0.1:" + server.getAddress().getPort() + "/files"));
        settings.putAll(more);
        return (Conditional)
                new HttpType().open(new Settings(settings, Map.of("env:TOKEN", "t0ken", "env:PASSWORD", "b")::get));
    }

    private static ProblemCode refused(String name) {
        try (Conditional place = open(Map.of())) {
            place.open(new FoundFile(name, -1, java.time.Instant.EPOCH));
        } catch (CannotGoOn e) {
            return e.problems().getFirst().code();
        }
        throw new AssertionError("it was fetched");
    }

    @Test
    void deliversAFileByPut(@TempDir Path local) throws IOException {
        Path content = Files.writeString(local.resolve("made"), "code\nH-1\n");
        try (Conditional place = open(Map.of())) {
            ((TakesFiles) place).put("out.csv", content);
            assertThat(delivered).isEqualTo("PUT code\nH-1\n");
            assertThatThrownBy(() -> ((TakesFiles) place).put("broken.csv", content))
                    .isInstanceOfSatisfying(
                            CannotGoOn.class, e -> assertThat(e.isTemporary()).isTrue());
            assertThatThrownBy(() -> ((TakesFiles) place).put("../out.csv", content))
                    .isInstanceOf(CannotGoOn.class);
        }
    }

    @Test
    void fetchesAFileOnceAndAsksWhetherItHasChanged() throws IOException {
        try (Conditional place = open(Map.of())) {
            FoundFile file = place.find("huts.csv").getFirst();
            assertThat(file.size()).isEqualTo(23);
            assertThat(file.modified()).isEqualTo("2026-05-01T10:00:00Z");
            assertThat(file.version()).isEqualTo(TAG);
            try (InputStream bytes = place.openUnless(file, "").orElseThrow()) {
                assertThat(bytes).asString(StandardCharsets.UTF_8).startsWith("code;name");
            }
            assertThat(place.openUnless(file, TAG)).isEmpty();
            assertThat(place.find("nothing.csv")).isEmpty();
            assertThat(place.find("with space.csv")).hasSize(1);
        }
    }

    @Test
    void signsInWithATokenOrAPassword() {
        try (Conditional place = open(Map.of("token", "env:TOKEN"))) {
            assertThat(place.find("secret.csv")).hasSize(1);
        }
        try (Conditional place = open(Map.of("user", "a", "password", "env:PASSWORD"))) {
            assertThat(place.find("secret.csv")).hasSize(1);
        }
        assertThat(refused("secret.csv")).isEqualTo(ProblemCode.SIGN_IN_REFUSED);
    }

    @Test
    void followsRedirectsWithinTheHostOnly() {
        try (Conditional place = open(Map.of())) {
            assertThat(place.find("moved.csv")).hasSize(1);
        }
        assertThat(refused("away.csv")).isEqualTo(ProblemCode.NOT_PERMITTED);
        assertThat(refused("circle.csv")).isEqualTo(ProblemCode.NOT_PERMITTED);
    }

    @Test
    void saysWhatIsWrong() {
        assertThat(refused("nothing.csv")).isEqualTo(ProblemCode.FILE_MISSING);
        assertThat(refused("broken.csv")).isEqualTo(ProblemCode.UNREACHABLE);
        assertThat(refused("../other")).isEqualTo(ProblemCode.SETTING_MALFORMED);
        assertThatThrownBy(() -> open(Map.of()).find("*.csv")).isInstanceOf(CannotGoOn.class);
        assertThatThrownBy(() -> open(Map.of("address", "ftp://x/"))).isInstanceOf(CannotGoOn.class);
        assertThatThrownBy(() -> open(Map.of("address", "no address"))).isInstanceOf(CannotGoOn.class);
    }
}

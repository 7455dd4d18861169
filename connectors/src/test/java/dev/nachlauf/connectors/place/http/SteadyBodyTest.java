package dev.nachlauf.connectors.place.http;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.time.Duration;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A real web server that stops in mid-answer. */
class SteadyBodyTest {
    private static final Duration SOON = Duration.ofMillis(50);

    private final CountDownLatch over = new CountDownLatch(1);
    private HttpServer server;

    @BeforeEach
    void start() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/whole", exchange -> {
            try (exchange) {
                exchange.sendResponseHeaders(200, 5_000);
                exchange.getResponseBody().write(new byte[5_000]);
            }
        });
        server.createContext("/half", exchange -> {
            try (exchange) {
                exchange.sendResponseHeaders(200, 5_000);
                exchange.getResponseBody().write(new byte[10]);
                exchange.getResponseBody().flush();
                over.await();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
        server.start();
    }

    @AfterEach
    void stop() {
        over.countDown();
        server.stop(0);
    }

    private InputStream body(String path) throws IOException, InterruptedException {
        URI uri = URI.create("http://127.0.0.1:" + server.getAddress().getPort() + path);
        return new SteadyBody(
                HttpClient.newHttpClient()
                        .send(HttpRequest.newBuilder(uri).build(), BodyHandlers.ofInputStream())
                        .body(),
                SOON,
                1_000);
    }

    @Test
    void whatKeepsComingIsReadToItsEnd() throws IOException, InterruptedException {
        try (InputStream body = body("/whole")) {
            assertThat(body.readAllBytes()).hasSize(5_000);
            assertThat(body.read()).isEqualTo(-1);
        }
    }

    @Test
    void aServerThatStopsInMidAnswerIsGivenUp() throws IOException, InterruptedException {
        try (InputStream body = body("/half")) {
            assertThat(body.readNBytes(10)).hasSize(10);
            assertThatThrownBy(body::readAllBytes)
                    .isInstanceOf(IOException.class)
                    .hasMessage("the server sends too slowly");
        }
        assertThat(Thread.interrupted()).as("who reads goes on undisturbed").isFalse();
    }
}

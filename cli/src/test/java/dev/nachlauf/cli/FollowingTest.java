package dev.nachlauf.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import java.io.InputStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

/** Whoever follows a run asks again where the service could not answer. */
class FollowingTest {
    private static final String GONE = "{\"status\": 503, \"detail\": \"The service can't reach its own database.\"}";
    private static final String NO_SUCH_RUN = "{\"status\": 404, \"detail\": \"There is no run 7.\"}";

    @Test
    void asksAgainWhereTheServiceHadNoDatabase() throws Exception {
        AtomicInteger calls = new AtomicInteger();
        HttpServer service = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        service.createContext("/api/v1/runs/7/events", call -> {
            boolean gone = calls.incrementAndGet() == 1;
            byte[] body = (gone ? GONE : NO_SUCH_RUN).getBytes(StandardCharsets.UTF_8);
            call.sendResponseHeaders(gone ? 503 : 404, body.length);
            call.getResponseBody().write(body);
            call.close();
        });
        service.start();
        StringWriter err = new StringWriter();
        int status;
        try {
            status = Nachlauf.run(
                    new Surroundings(
                            Path.of(""),
                            Map.of(
                                    "NACHLAUF_SERVER",
                                    "http://127.0.0.1:" + service.getAddress().getPort()),
                            InputStream.nullInputStream(),
                            new PrintWriter(new StringWriter()),
                            new PrintWriter(err, true)),
                    "run",
                    "follow",
                    "7");
        } finally {
            service.stop(0);
        }
        assertThat(err.toString()).contains("There is no run 7.").doesNotContain("database");
        assertThat(status).isEqualTo(ExitStatus.REFUSED);
        assertThat(calls).hasValue(2);
    }
}

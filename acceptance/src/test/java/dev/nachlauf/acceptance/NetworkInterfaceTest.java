package dev.nachlauf.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.Socket;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The network interface: its published document, its errors, its guards. */
class NetworkInterfaceTest {
    private static final Installation NACHLAUF = Installation.shared();

    @Test
    void isWhatTheCheckedInDocumentSays() {
        JsonNode live = Installation.JSON.readTree(NACHLAUF.get("/openapi").body());
        JsonNode kept = Installation.JSON.readTree(Installation.read(Installation.TOP.resolve("docs/openapi.json")));
        assertThat(live).isEqualTo(kept);
    }

    @Test
    void answersErrorsAsProblemDetails() {
        HttpResponse<String> missing = NACHLAUF.get("/jobs/nothing");
        assertThat(missing.statusCode()).isEqualTo(404);
        assertThat(missing.headers().firstValue("Content-Type").orElse("")).startsWith("application/problem+json");
        JsonNode problem = Installation.JSON.readTree(missing.body());
        assertThat(problem.get("code").asString()).isEqualTo("not-found");
        assertThat(problem.get("detail").asString()).isEqualTo("There is no job nothing.");
        assertThat(problem.get("status").asInt()).isEqualTo(404);

        HttpResponse<String> wrong = NACHLAUF.post("/jobs", "nachlauf: 1\njob: [x\n", "application/yaml");
        assertThat(wrong.statusCode()).isEqualTo(422);
        JsonNode details = Installation.JSON.readTree(wrong.body());
        assertThat(details.get("code").asString()).isEqualTo("yaml-malformed");
        assertThat(details.get("line").asInt()).isPositive();
        assertThat(details.get("column").asInt()).isPositive();

        assertThat(NACHLAUF.post("/runs", "{", "application/json").statusCode()).isEqualTo(400);
        assertThat(NACHLAUF.get("/nothing").statusCode()).isEqualTo(404);
        assertThat(NACHLAUF.get("/runs/seven").statusCode()).isEqualTo(400);
    }

    @Test
    void noPageOfAnotherOriginMayCall() {
        assertThat(NACHLAUF.get("/jobs", "Origin", "http://evil.example").statusCode())
                .isEqualTo(403);
        assertThat(NACHLAUF.get("/jobs", "Origin", NACHLAUF.address()).statusCode())
                .isEqualTo(200);
    }

    @Test
    void aForeignNameForLoopbackIsRefused() throws java.io.IOException {
        int port = java.net.URI.create(NACHLAUF.address()).getPort();
        try (Socket socket = new Socket("127.0.0.1", port)) {
            socket.getOutputStream()
                    .write("GET /api/v1/jobs HTTP/1.1\r\nHost: rebound.example\r\nConnection: close\r\n\r\n"
                            .getBytes(StandardCharsets.US_ASCII));
            String answer = new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
            assertThat(answer).startsWith("HTTP/1.1 403").contains("request-foreign");
        }
    }

    @Test
    void anUploadIsNeverTrustedWithAPath() {
        HttpResponse<String> kept =
                NACHLAUF.post("/files?name=..%2F..%2Fetc%2Fpasswd", "code;name\n", "application/octet-stream");
        assertThat(kept.statusCode()).isEqualTo(200);
        String hash = Installation.JSON.readTree(kept.body()).get("hash").asString();
        assertThat(NACHLAUF.state.resolve("files").resolve(hash.substring(0, 2)).resolve(hash))
                .hasContent("code;name\n");
        String run = "{\"job\":\"hut-list\",\"file\":\"../../../etc/passwd\"}";
        assertThat(NACHLAUF.post("/runs", run, "application/json").body()).contains("file-missing");
    }

    @Test
    void theConsoleIsServedAtItsOwnAddresses() {
        for (String path : new String[] {
            "/../../", "/../../jobs/hut-list", "/../../runs/1/rejects", "/../../connections/register/hut"
        }) {
            HttpResponse<String> page = NACHLAUF.get(path);
            assertThat(page.statusCode()).as(path).isEqualTo(200);
            assertThat(page.body()).contains("<div id=\"root\">");
        }
    }
}

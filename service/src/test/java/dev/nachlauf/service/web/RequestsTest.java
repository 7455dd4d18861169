package dev.nachlauf.service.web;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.service.ServiceUnderTest;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Requests that are malformed or too large are answered with what is wrong, and never as a defect. */
class RequestsTest {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static ServiceUnderTest service;
    private static HttpClient http;

    @BeforeAll
    static void start() {
        service = new ServiceUnderTest();
        http = HttpClient.newHttpClient();
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static HttpResponse<String> post(String path, String type, String body)
            throws IOException, InterruptedException {
        return http.send(
                service.request(path)
                        .header("Content-Type", type)
                        .POST(BodyPublishers.ofString(body))
                        .build(),
                BodyHandlers.ofString());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "/runs | {\"job\":\"a\",\"dryRun\":true} | 400 | dryRun",
                "/runs | {} | 400 | job",
                "/runs | null | 400 | request",
                "/runs | {\"job\":null} | 400 | job",
                "/sources/profile | {} | 400 | source",
                "/suggestions | {} | 400 | lacks",
                "/crosswalks/region/entries | {\"entries\":[{\"from\":\"a\"}]} | 400 | entries[0].to",
            })
    void malformedBodiesAreAnsweredWithTheirProperty(String path, String body, int status, String named)
            throws IOException, InterruptedException {
        HttpResponse<String> answer = post(path, "application/json", body);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(status);
        JsonNode problem = JSON.readTree(answer.body());
        assertThat(problem.get("code").asString()).isEqualTo("request-malformed");
        assertThat(problem.get("detail").asString()).contains(named);
    }

    @Test
    void aDocumentThatIsTooLargeIsRefusedWhetherItsSizeIsToldOrNot() throws IOException, InterruptedException {
        String large = "# ".repeat(1_100_000);
        assertThat(post("/jobs/check", "application/yaml", large).statusCode()).isEqualTo(413);
        HttpResponse<String> chunked = http.send(
                service.request("/jobs/check")
                        .header("Content-Type", "application/yaml")
                        .POST(BodyPublishers.ofInputStream(() -> new java.io.ByteArrayInputStream(large.getBytes())))
                        .build(),
                BodyHandlers.ofString());
        assertThat(chunked.statusCode()).isEqualTo(413);
        assertThat(JSON.readTree(chunked.body()).get("detail").asString()).contains("2 MB");
        assertThat(post("/jobs/check", "application/yaml", "# ".repeat(900_000)).statusCode())
                .isEqualTo(200);
    }

    @Test
    void aJobOverAnUnknownConnectionIsToldSo() throws IOException, InterruptedException {
        HttpResponse<String> answer = post("/jobs/check", "application/yaml", """
                nachlauf: 1
                job: huts
                read: { connection: nowhere, records: hut }
                write: { connection: nowhere, records: hut, action: upsert, key: [code], same-names: true }
                """);
        assertThat(answer.statusCode()).isEqualTo(200);
        assertThat(answer.body()).contains("connection-unknown");
    }
}

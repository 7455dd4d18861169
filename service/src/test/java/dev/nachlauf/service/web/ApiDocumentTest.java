package dev.nachlauf.service.web;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.service.ServiceUnderTest;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** The document of the interface is what the sources say, and what the service serves. */
class ApiDocumentTest {
    private static final Path KEPT = Path.of("../docs/openapi.json");
    private static final JsonMapper JSON = JsonMapper.builder()
            .enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS)
            .enable(SerializationFeature.INDENT_OUTPUT)
            .build();
    private static ServiceUnderTest service;
    private static String made;

    @BeforeAll
    static void make() throws Exception {
        service = ServiceUnderTest.describing();
        made = JSON.writeValueAsString(JSON.readValue(get("/v3/api-docs"), TreeMap.class)) + "\n";
        if ("write".equals(System.getProperty("nachlauf.openapi"))) {
            Files.writeString(KEPT, made);
        }
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static String get(String path) throws Exception {
        URI address = URI.create(service.address().replace("/api/v1", "") + path);
        try (HttpClient http = HttpClient.newHttpClient()) {
            return http.send(HttpRequest.newBuilder(address).build(), BodyHandlers.ofString())
                    .body();
        }
    }

    @Test
    void itIsUpToDate() throws IOException {
        assertThat(made)
                .as("run the tests of service with -Dnachlauf.openapi=write to write it anew")
                .isEqualTo(Files.readString(KEPT));
    }

    @Test
    void theServiceServesItAsItWasMade() throws Exception {
        assertThat(get("/api/v1/openapi")).isEqualTo(Files.readString(KEPT));
    }

    @Test
    void everyOperationSaysWhatItIsForAndHowItFails() {
        JsonNode document = JSON.readTree(made);
        Set<String> ids = new HashSet<>();
        document.path("paths")
                .forEach(path -> path.forEach(operation -> {
                    assertThat(operation.path("summary").asString())
                            .as(operation.toString())
                            .endsWith(".");
                    assertThat(ids.add(operation.path("operationId").asString()))
                            .as(operation.path("operationId").asString())
                            .isTrue();
                    assertThat(operation
                                    .at("/responses/default/content/application~1problem+json/schema/$ref")
                                    .asString())
                            .endsWith("/Problem");
                    operation
                            .path("responses")
                            .forEach(answer -> assertThat(answer.path("content").has("*/*"))
                                    .as(operation.path("operationId").asString())
                                    .isFalse());
                }));
        assertThat(ids).hasSizeGreaterThan(50).contains("runStart", "jobCheck", "sourcePreview");
        assertThat(document.at(
                                "/paths/~1api~1v1~1sources~1preview/post/responses/202/content/application~1json/schema/$ref")
                        .asString())
                .endsWith("/LookView");
        assertThat(document.at("/components/schemas/RunView/properties/phase/description")
                        .asString())
                .contains("planning or writing");
    }
}

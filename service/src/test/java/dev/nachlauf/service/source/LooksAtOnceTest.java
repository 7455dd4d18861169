package dev.nachlauf.service.source;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.sql.Connection;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

/** Many people look at a system that answers slowly: a few of them hold its connections, the others wait their turn. */
class LooksAtOnceTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_many_looks";
    private static final int PEOPLE = 9;
    private static final int AT_ONCE = 4;

    @Test
    void aFewLooksAtASystemAreAtWorkAndTheOthersWait() throws Exception {
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(REGISTER, "CREATE TABLE hut (code text PRIMARY KEY); INSERT INTO hut VALUES ('H-1')");
        try (ServiceUnderTest service = new ServiceUnderTest();
                HttpClient http = HttpClient.newHttpClient()) {
            service.bean(Connections.class)
                    .save("register.yaml", """
                    nachlauf: 1
                    connection: register
                    type: postgresql
                    settings: { port: %d, database: %s, user: %s }
                    """.formatted(CLUSTER.port(), REGISTER, PrivateCluster.ADMIN), "test");
            List<CompletableFuture<HttpResponse<String>>> looks = new ArrayList<>();
            try (Connection other = CLUSTER.connect(REGISTER);
                    Statement statement = other.createStatement()) {
                other.setAutoCommit(false);
                statement.execute("LOCK TABLE hut IN ACCESS EXCLUSIVE MODE");
                HttpRequest look = service.request("/sources/preview")
                        .header("Content-Type", "application/json")
                        .POST(BodyPublishers.ofString("{\"connection\":\"register\",\"query\":\"select * from hut\"}"))
                        .build();
                for (int person = 0; person < PEOPLE; person++) {
                    looks.add(http.sendAsync(look, BodyHandlers.ofString()));
                }
                ServiceUnderTest.patiently().until(() -> waiting() >= AT_ONCE);
                assertThat(waiting()).isEqualTo(AT_ONCE);
                assertThat(looks).noneMatch(CompletableFuture::isDone);
                othersAreAnswered(service, http);
            }
            for (CompletableFuture<HttpResponse<String>> look : looks) {
                HttpResponse<String> answer = look.get(1, TimeUnit.MINUTES);
                assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
                assertThat(answer.body()).contains("H-1");
            }
        }
    }

    /** While all places for looks at the register are taken. */
    private static void othersAreAnswered(ServiceUnderTest service, HttpClient http) throws Exception {
        assertThat(http.send(service.request("/runs").build(), BodyHandlers.ofString())
                        .statusCode())
                .isEqualTo(200);
        HttpRequest other = service.request("/sources/preview")
                .header("Content-Type", "application/json")
                .POST(BodyPublishers.ofString("{\"sample\":\"code;name\\nH-1;Hut\\n\"}"))
                .build();
        assertThat(http.send(other, BodyHandlers.ofString()).statusCode()).isEqualTo(200);
    }

    @Test
    void aLookThatTakesLongerThanItsCallerWaitsIsFollowedStoppedAndAskedForLater() throws Exception {
        try (ServiceUnderTest service = new ServiceUnderTest();
                HttpClient http = HttpClient.newHttpClient()) {
            String rows = "code;name\\n" + "H-1;Hut\\n".repeat(20_000);
            HttpRequest.Builder profile = service.request("/sources/profile")
                    .header("Content-Type", "application/json")
                    .header("Prefer", "respond-async")
                    .POST(BodyPublishers.ofString("{\"source\":{\"sample\":\"" + rows + "\"}}"));
            HttpResponse<String> named = http.send(profile.build(), BodyHandlers.ofString());
            assertThat(named.statusCode()).as(named.body()).isEqualTo(202);
            assertThat(named.body()).contains("\"what\":\"profile\"");
            String result = named.headers().firstValue("Location").orElseThrow().replace("/api/v1", "");
            HttpResponse<String> found = http.send(
                    service.request(result).header("Prefer", "wait=60").build(), BodyHandlers.ofString());
            assertThat(found.statusCode()).as(found.body()).isEqualTo(200);
            assertThat(found.body()).contains("\"rows\":20000");
            assertThat(http.send(service.request(result).build(), BodyHandlers.ofString())
                            .statusCode())
                    .isEqualTo(404);

            String other = http.send(profile.build(), BodyHandlers.ofString())
                    .headers()
                    .firstValue("Location")
                    .orElseThrow()
                    .replace("/api/v1", "");
            HttpRequest stop = service.request(other.replace("/result", "/stop"))
                    .POST(BodyPublishers.noBody())
                    .build();
            assertThat(http.send(stop, BodyHandlers.ofString()).statusCode()).isEqualTo(200);
            HttpResponse<String> ended = http.send(service.request(other).build(), BodyHandlers.ofString());
            assertThat(ended.body()).containsAnyOf("look-ended", "\"rows\":20000");
        }
    }

    private static long waiting() {
        return Long.parseLong(
                CLUSTER.query(
                        REGISTER,
                        "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock'"));
    }
}

package dev.nachlauf.service.source;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.contract.postgresql.PrivateCluster;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
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
                while (waiting() < AT_ONCE) {
                    Thread.onSpinWait();
                }
                assertThat(waiting()).isEqualTo(AT_ONCE);
                assertThat(looks).noneMatch(CompletableFuture::isDone);
            }
            for (CompletableFuture<HttpResponse<String>> look : looks) {
                HttpResponse<String> answer = look.get(1, TimeUnit.MINUTES);
                assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
                assertThat(answer.body()).contains("H-1");
            }
        }
    }

    private static long waiting() {
        return Long.parseLong(
                CLUSTER.query(
                        REGISTER,
                        "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock'"));
    }
}

package dev.nachlauf.service.source;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.shared.Crosswalks;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Looks at a source never show the values of a field that its connection, or the target's, marks as sensitive. */
class SensitiveLooksTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_looks";
    private static ServiceUnderTest service;
    private static HttpClient http;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        http = HttpClient.newHttpClient();
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(REGISTER, """
                CREATE TABLE member (card text PRIMARY KEY, phone text, valley text, region text, paid text);
                INSERT INTO member SELECT 'M-' || n, '0664-secret-' || n, 'secret dale', 'R' || n % 2, n FROM generate_series(1, 9) n;
                INSERT INTO member VALUES ('M-10', '0664-SECRET-1', 'secret dale', 'R0', 'many')""");
        service.bean(Connections.class)
                .save("register.yaml", """
                nachlauf: 1
                connection: register
                type: postgresql
                settings: { port: %d, database: %s, user: %s }
                marks: { member: { phone: { sensitive: true }, valley: { sensitive: true } } }
                """.formatted(CLUSTER.port(), REGISTER, PrivateCluster.ADMIN), "test");
        service.bean(Connections.class)
                .save(
                        "inbox.yaml",
                        "nachlauf: 1\nconnection: inbox\ntype: folder\nsettings: { path: " + ServiceUnderTest.folder()
                                + " }\n",
                        "test");
        service.bean(Crosswalks.class)
                .save("prefix.yaml", "nachlauf: 1\ncrosswalk: prefix\nentries:\n  - { from: '0664', to: A }\n", "test");
        Files.writeString(
                ServiceUnderTest.folder().resolve("cards.csv"),
                "phone;valley\n0664-secret-1;secret dale\n0664-secret-99;-\n");
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static String post(String path, String body) throws IOException, InterruptedException {
        HttpResponse<String> answer = http.send(
                service.request(path)
                        .header("Content-Type", "application/json")
                        .POST(BodyPublishers.ofString(body))
                        .build(),
                BodyHandlers.ofString());
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
        return answer.body();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "/sources/preview | {\"connection\":\"register\",\"records\":\"member\"}",
                "/connections/register/records/member/profile | {\"keys\":[[\"phone\"],[\"region\",\"valley\"]]}",
                "/crosswalks/prefix/gaps?field=phone | {\"connection\":\"register\",\"records\":\"member\"}",
                "/crosswalks/prefix/gaps?field=card&scopeField=phone | {\"connection\":\"register\",\"records\":\"member\"}",
            })
    void ofRecords(String path, String body) throws IOException, InterruptedException {
        assertThat(post(path, body)).contains("•••").doesNotContainIgnoringCase("secret");
    }

    @Test
    void ofRowsThatACheckTries() {
        String found =
                service.bean(Jobs.class).check("tried.yaml", """
                        nachlauf: 1
                        job: tried
                        read: { connection: inbox, file: cards.csv, fields: { phone: { is: integer } } }
                        steps:
                          - rule: phone > 0
                        write:
                          connection: register
                          records: member
                          action: update
                          key: [card]
                          map: { card: valley, phone: "cast(phone as text)" }
                        """).problems().toString();
        assertThat(found)
                .contains("rows-would-fail", "2 of the first 2 rows")
                .doesNotContainIgnoringCase("0664-secret");
    }

    @Test
    void ofOthersAreShown() throws IOException, InterruptedException {
        assertThat(post("/sources/preview", "{\"connection\":\"register\",\"records\":\"member\"}"))
                .contains("\"M-1\"", "\"many\"");
        assertThat(post("/crosswalks/prefix/gaps?field=region", "{\"connection\":\"register\",\"records\":\"member\"}"))
                .contains("\"R0\"", "\"R1\"");
    }

    @Test
    void ofAFileThatIsComparedWithThem() throws IOException, InterruptedException {
        assertThat(post("/sources/profile", """
                {"source":{"connection":"inbox","fileName":"cards.csv"},"keys":[["phone"]],
                 "targetConnection":"register","targetRecords":"member"}""")).contains("•••").doesNotContain("0664-secret");
    }

    @Test
    void ofAJobThatTranslatesThem() throws IOException, InterruptedException {
        service.bean(Jobs.class).save("cards.yaml", """
                nachlauf: 1
                job: cards
                read: { connection: inbox, file: cards.csv }
                write:
                  connection: register
                  records: member
                  action: upsert
                  key: [card]
                  map: { card: phone, phone: "crosswalk('prefix', phone)" }
                """, false, "test");
        String gaps = post("/jobs/cards/gaps", "{}");
        assertThat(gaps).contains("•••").doesNotContain("secret");
        assertThat(gaps).as("counted all the same").contains("\"rows\":2");
    }
}

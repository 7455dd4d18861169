package dev.nachlauf.service.crosswalk;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.api.ProposalView;
import dev.nachlauf.api.ResubmitRejects;
import dev.nachlauf.api.RunView;
import dev.nachlauf.core.crosswalk.CrosswalkFile.Addition;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.run.RunResubmitting;
import dev.nachlauf.service.shared.Crosswalks;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.net.http.HttpClient;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Three equal corrections lead to a proposal, which a person accepts. */
class ProposalsTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static int number;

    private final String register = "register_of_proposals_" + ++number;
    private ServiceUnderTest service;

    @BeforeEach
    void start() throws Exception {
        service = new ServiceUnderTest();
        CLUSTER.createDatabase(register);
        CLUSTER.execute(
                register,
                "CREATE TABLE hut (code text PRIMARY KEY, region text CHECK (region <> 'Tal'), category integer, phone text)");
        service.connect(register);
        service.bean(Connections.class)
                .save("register.yaml", """
                nachlauf: 1
                connection: register
                type: postgresql
                settings: { port: %d, database: %s, user: %s }
                marks:
                  hut:
                    phone: { sensitive: true }
                """.formatted(CLUSTER.port(), register, PrivateCluster.ADMIN), "test");
        service.bean(Crosswalks.class).save("category.yaml", """
                nachlauf: 1
                crosswalk: hut-category
                entries:
                  - { from: simple, to: '2' }
                """, "test");
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: huts
                read: { connection: inbox, file: upload, format: { as: delimited, delimiter: ";" }, fields: { stars: { is: integer } } }
                steps:
                  - rule: char_length(phone) < 5
                  - rule: stars < 6
                write:
                  connection: register
                  records: hut
                  action: upsert
                  key: [code]
                  map: { code: code, region: region, category: "cast(crosswalk('hut-category', Category) as integer)", phone: phone }
                """, false, "test");
    }

    @AfterEach
    void stop() {
        service.close();
    }

    private RunView load(String... rows) {
        String csv = "code;region;category;phone;stars\n" + String.join("\n", rows) + "\n";
        return service.run("huts", "huts.csv", csv.getBytes(StandardCharsets.UTF_8), null);
    }

    private void fix(RunView run, String where, String column, String to) throws Exception {
        String body = "{\"rejects\":{\"run\":" + run.id() + ",\"where\":\"" + where + "\"},\"set\":{\"" + column
                + "\":\"" + to + "\"}}";
        HttpResponse<String> answer = HttpClient.newHttpClient()
                .send(
                        service.request("/rejects/fix")
                                .header("Content-Type", "application/json")
                                .POST(BodyPublishers.ofString(body))
                                .build(),
                        BodyHandlers.ofString());
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
    }

    private List<ProposalView> proposals() {
        return service.bean(Proposals.class).all();
    }

    @Test
    void threeEqualCorrectionsProposeTheEntryThatIsMissing() throws Exception {
        RunView run =
                load("H-1;A;lodge;1;1", "H-2;A;lodge;1;1", "H-3;A;lodge;1;1", "H-4;A;lodge;1;1", "H-5;A;cabin;1;1");
        fix(run, "code in ('H-1', 'H-2')", "category", "simple");
        assertThat(proposals()).as("two are no habit").isEmpty();
        fix(run, "code = 'H-3'", "category", "simple");
        assertThat(proposals())
                .containsExactly(
                        new ProposalView("huts", "category", "lodge", "simple", 3, "hut-category", "2", null, 1));
        service.settled(service.bean(RunResubmitting.class)
                .start(run.id(), new ResubmitRejects(null), "Perran")
                .id());
        assertThat(proposals()).as("they count when they have gone through too").hasSize(1);
        service.bean(Crosswalks.class).add("hut-category", List.of(new Addition("", "lodge", "2")), "Wenna");
        assertThat(proposals()).as("it is accepted").isEmpty();
        assertThat(service.bean(HealedRejects.class).of("hut-category", run.id()))
                .hasSize(1);
    }

    @Test
    void whereNoCrosswalkTranslatesAStepIsProposed() throws Exception {
        RunView run = load("H-1;Tal;simple;1;1", "H-2;Tal;simple;1;1", "H-3;Tal;simple;1;1", "H-4;Tal;simple;1;1");
        fix(run, "code <> 'H-4'", "region", "O'Tal");
        ProposalView proposal = proposals().getFirst();
        assertThat(List.of(proposal.fixed(), proposal.heals())).containsExactly(3L, 1L);
        assertThat(proposal.step())
                .isEqualTo("- set: { 'region': 'case \"region\" when ''Tal'' then ''O''''Tal'' else \"region\" end' }");
        // and it does what it says
        Jobs jobs = service.bean(Jobs.class);
        String taught =
                jobs.newest("huts").version().document().replace("steps:\n", "steps:\n  " + proposal.step() + "\n");
        jobs.save("huts.yaml", taught, false, "Wenna");
        RunView again = service.settled(service.bean(RunResubmitting.class)
                .start(run.id(), new ResubmitRejects(null), "Perran")
                .id());
        assertThat(again.balance().inserted()).isEqualTo(4);
        assertThat(CLUSTER.query(register, "SELECT DISTINCT region FROM hut")).isEqualTo("O'Tal");
    }

    @Test
    void nothingIsProposedOfWhatIsKeptOrCantBeRead() throws Exception {
        RunView run = load(
                "H-1;A;simple;123456;1",
                "H-2;A;simple;123456;1",
                "H-3;A;simple;123456;1",
                "H-4;A;simple;1;many",
                "H-5;A;simple;1;many",
                "H-6;A;simple;1;many");
        fix(run, "phone = '123456'", "phone", "1");
        fix(run, "stars = 'many'", "stars", "5");
        assertThat(proposals()).isEmpty();
    }
}

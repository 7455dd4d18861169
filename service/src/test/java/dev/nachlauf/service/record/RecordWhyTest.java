package dev.nachlauf.service.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.api.ResubmitRejects;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.WhyView;
import dev.nachlauf.api.WhyView.Link;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.run.RunResubmitting;
import dev.nachlauf.service.shared.Crosswalks;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;

/** The way of a value, gone again with what the run had, against a real target. */
class RecordWhyTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_whys";
    private static ServiceUnderTest service;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(REGISTER, """
                CREATE TABLE hut (code text PRIMARY KEY, name text, size integer, phone text, stamped text);
                CREATE FUNCTION stamp() RETURNS trigger LANGUAGE plpgsql AS
                  $$ BEGIN NEW.stamped := upper(NEW.stamped); RETURN NEW; END $$;
                CREATE TRIGGER stamp BEFORE INSERT OR UPDATE ON hut FOR EACH ROW EXECUTE FUNCTION stamp();""");
        service.connect(REGISTER);
        service.bean(Connections.class)
                .save("register.yaml", """
                nachlauf: 1
                connection: register
                type: postgresql
                settings: { port: %d, database: %s, user: %s }
                marks:
                  hut:
                    phone: { sensitive: true }
                """.formatted(CLUSTER.port(), REGISTER, PrivateCluster.ADMIN), "test");
        service.bean(Crosswalks.class).save("size.yaml", """
                nachlauf: 1
                crosswalk: size
                entries:
                  - { from: big, to: '90' }
                  - { like: 'sm*', to: '9' }
                """, "test");
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: whys
                read: { connection: inbox, file: upload, format: { as: delimited, delimiter: ";" } }
                steps:
                  - set: { size: "lower(trim(size))" }
                write:
                  connection: register
                  records: hut
                  action: upsert
                  key: [code]
                  map: { code: code, name: name, size: "cast(crosswalk('size', size) as integer)", phone: phone, stamped: name }
                """, false, "test");
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void clear() {
        CLUSTER.execute(REGISTER, "TRUNCATE hut");
    }

    private static RunView load(String csv) {
        RunView run = service.run("whys", "huts.csv", csv.getBytes(StandardCharsets.UTF_8), null);
        assertThat(run.state()).as("%s", run.reasons()).isEqualTo("finished");
        return run;
    }

    private static String post(String path, String body) throws Exception {
        return HttpClient.newHttpClient()
                .send(
                        service.request(path)
                                .header("Content-Type", "application/json")
                                .POST(BodyPublishers.ofString(body))
                                .build(),
                        BodyHandlers.ofString())
                .body();
    }

    private static WhyView why(String code, String field) {
        return service.bean(RecordWhy.class).of("register", "hut", Map.of("code", code), field);
    }

    private static List<String> way(WhyView why) {
        List<String> told = new ArrayList<>();
        tell(why.way(), "", told);
        return told;
    }

    private static void tell(Link link, String indent, List<String> told) {
        told.add(indent + link.name() + " " + link.value() + " " + link.kind() + " " + link.how() + link.place());
        link.translated()
                .forEach(one -> told.add(indent + " " + one.crosswalk() + " " + one.version() + " line " + one.line()
                        + ": " + one.value() + " " + one.translation()));
        link.from().forEach(from -> tell(from, indent + " ", told));
    }

    @Test
    void theWayLeadsBackToTheCellWithTheCrosswalkOfThatTime() {
        RunView run = load("code;name;size;phone\nH-1;Larch;BIG ;1\nH-2;Fern; Small;2\n");
        service.bean(Crosswalks.class).save("size.yaml", """
                nachlauf: 1
                crosswalk: size
                entries:
                  - { from: big, to: '91' }
                  - { like: 'sm*', to: '9' }
                """, "test");
        WhyView why = why("H-1", "size");
        assertThat(List.of(why.run(), why.row())).containsExactly(run.id(), 1L);
        assertThat(why.place()).isEqualTo("huts.csv, line 2");
        assertThat(why.written()).isEqualTo("90");
        assertThat(why.same()).isTrue();
        int version = why.way().translated().getFirst().version();
        assertThat(way(why))
                .containsExactly(
                        "size 90 map cast(crosswalk('size', size) as integer)",
                        " size " + version + " line 4: big 90",
                        " size big set lower(trim(size))",
                        "  size BIG  cell huts.csv, line 2, field 3");
        assertThat(way(why("H-2", "size"))).contains(" size " + version + " line 5: small 9");
    }

    @Test
    void whatTheTargetHasChangedIsTold() {
        load("code;name;size;phone\nH-1;Larch;big;1\n");
        WhyView why = why("H-1", "stamped");
        assertThat(why.way().value()).isEqualTo("Larch");
        assertThat(why.written()).isEqualTo("LARCH");
        assertThat(why.same()).isFalse();
    }

    @Test
    void whatIsSensitiveIsKeptOnTheWholeWay() {
        load("code;name;size;phone\nH-1;Larch;big;0664\n");
        WhyView why = why("H-1", "phone");
        assertThat(why.written()).isEqualTo("•••");
        assertThat(way(why)).containsExactly("phone ••• map phone", " phone ••• cell huts.csv, line 2, field 4");
    }

    @Test
    void whatWasTakenBackIsPassedOver() throws Exception {
        RunView first = load("code;name;size;phone\nH-1;Larch;big;1\n");
        RunView second = load("code;name;size;phone\nH-1;Larch;small;1\n");
        String started = post("/runs/" + second.id() + "/undo", "{}");
        RunView undo =
                service.settled(JsonMapper.shared().readTree(started).path("id").asLong());
        WhyView why = why("H-1", "size");
        assertThat(why.run()).isEqualTo(first.id());
        assertThat(why.notes())
                .containsExactly("Run " + undo.id() + " has taken back what run " + second.id() + " had written here.");
    }

    @Test
    void aCellThatWasCorrectedIsShownAsItWasSent() throws Exception {
        RunView run = load("code;name;size;phone\nH-1;Larch;vast;1\nH-2;Fern;big;2\n");
        post("/rejects/fix", "{\"rejects\":{\"run\":" + run.id() + "},\"set\":{\"size\":\"small\"}}");
        RunView again = service.settled(service.bean(RunResubmitting.class)
                .start(run.id(), new ResubmitRejects(null), "Perran")
                .id());
        WhyView why = why("H-1", "size");
        assertThat(why.run()).isEqualTo(again.id());
        assertThat(way(why)).contains("  size small cell huts.csv, line 2, field 3");
        assertThat(why.notes().getFirst()).startsWith("The run has sent rejects of run " + run.id() + " again");
    }

    @Test
    void whatNoRunHasWrittenHasNoWay() {
        load("code;name;size;phone\nH-1;Larch;big;1\n");
        assertThatThrownBy(() -> why("H-1", "height"))
                .hasMessageContaining("No run has written height of this record.");
        assertThatThrownBy(() -> why("H-9", "size")).hasMessageContaining("No run has written size of this record.");
    }

    @Test
    void theInterfaceAnswersTheSame() throws Exception {
        load("code;name;size;phone\nH-1;Larch;big;1\n");
        String body = HttpClient.newHttpClient()
                .send(
                        service.request("/connections/register/records/hut/why?key=code%3DH-1&field=name")
                                .build(),
                        BodyHandlers.ofString())
                .body();
        assertThat(body).contains("\"field\":\"name\"", "\"place\":\"huts.csv, line 2, field 2\"");
    }
}

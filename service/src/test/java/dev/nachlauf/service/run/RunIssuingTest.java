package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import dev.nachlauf.api.IssuedFileView;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.UndoRun;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.job.Jobs;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Jobs that hand files over. */
class RunIssuingTest {
    private static final String FILE =
            "code;name;beds;opens\nH-1;Larch;8;2026-05-01\nH-2;\"Fern; <b> \"\"old\"\"\";9;\n"
                    + "H-3;Moss;;2026-06-01\n";
    private static ServiceUnderTest service;
    private static Path radio;
    private static int jobs;

    private String job;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        service.connect("register_of_issues");
        Files.writeString(ServiceUnderTest.folder().resolve("huts.csv"), FILE);
        radio = Files.createDirectories(ServiceUnderTest.folder().resolve("radio"));
        service.bean(Connections.class)
                .save(
                        "radio.yaml",
                        "nachlauf: 1\nconnection: radio\ntype: folder\nsettings: { path: " + radio + " }\n",
                        "test");
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void anEmptyPlace() throws IOException {
        job = "huts-out-" + ++jobs;
        try (Stream<Path> files = Files.list(radio)) {
            for (Path file : files.toList()) {
                Files.delete(file);
            }
        }
    }

    private void save(String write) {
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: %s
                read:
                  connection: inbox
                  file: huts.csv
                  format: { as: delimited, delimiter: ";" }
                  fields: { beds: { is: integer }, opens: { is: date } }
                unlike-last-time: allow
                write:
                  connection: radio
                  action: issue
                %s
                """.formatted(job, write.indent(2)), false, "test");
    }

    private RunView run(String text, String mode) {
        return service.run(job, "huts.csv", text.getBytes(StandardCharsets.UTF_8), mode);
    }

    private static String there(String name) throws IOException {
        return Files.readString(radio.resolve(name));
    }

    private static List<String> told(List<ProblemView> problems) {
        return problems.stream().map(ProblemView::sentence).toList();
    }

    @Test
    void delimitedTextIsDelivered() throws IOException {
        save("""
                file: huts.csv
                format: { delimiter: ";", line-ends: crlf }
                map: { code: code, name: name, beds: beds, opens: opens }""");
        RunView run = run(FILE, "write");
        assertThat(run.reasons()).isEmpty();
        assertThat(run.state()).isEqualTo("finished");
        assertThat(run.balance().issued()).isEqualTo(3);
        assertThat(run.balance().balanced()).isTrue();
        assertThat(there("huts.csv"))
                .isEqualTo("code;name;beds;opens\r\nH-1;Larch;8;2026-05-01\r\nH-2;\"Fern; <b> \"\"old\"\"\";9;\r\n"
                        + "H-3;Moss;;2026-06-01\r\n");
        assertThat(run.issued())
                .extracting(IssuedFileView::name, IssuedFileView::rows, IssuedFileView::delivered)
                .containsExactly(tuple("huts.csv", 3L, true));
        assertThatThrownBy(() -> service.bean(RunUndoing.class).start(run.id(), new UndoRun(null, null), "Wenna"))
                .isInstanceOf(CannotGoOn.class)
                .hasMessageContaining("has issued files, which nobody can ask back");
    }

    @Test
    void aTextIsMadeOfRowsInParts() throws IOException {
        save("""
                file: bulletin-${part}.txt
                parts-of: 2
                text:
                  escape: xml
                  encoding: windows-1252
                  line-ends: crlf
                  head: |
                    BULLETIN ${run} part ${part} of ${parts}, ${count} huts
                  each: |
                    HUT ${code} "${name}" beds ${beds}
                  foot: |
                    END
                map: { code: code, name: name, beds: beds }""");
        RunView run = run(FILE, "write");
        assertThat(run.reasons()).isEmpty();
        assertThat(there("bulletin-1.txt"))
                .isEqualTo("BULLETIN " + run.id() + " part 1 of 2, 2 huts\r\nHUT H-1 \"Larch\" beds 8\r\n"
                        + "HUT H-2 \"Fern; &lt;b&gt; &quot;old&quot;\" beds 9\r\nEND\r\n");
        assertThat(there("bulletin-2.txt"))
                .isEqualTo("BULLETIN " + run.id() + " part 2 of 2, 1 huts\r\nHUT H-3 \"Moss\" beds \r\nEND\r\n");
    }

    @Test
    void aTemplateGrowsFromARecordedText() throws IOException {
        save("""
                file: huts.txt
                text:
                  escape: line
                  recorded: |
                    begin H-018
                      beds 88
                    end H-018
                  values: { code: H-018, beds: 88 }
                map:
                  code: code
                  beds: coalesce(beds, 0)""");
        run(FILE, "write");
        assertThat(there("huts.txt"))
                .isEqualTo(
                        "begin H-1\n  beds 8\nend H-1\nbegin H-2\n  beds 9\nend H-2\nbegin H-3\n  beds 0\nend H-3\n");
    }

    @Test
    void whatTheEncodingLacksRejectsItsRow() throws IOException {
        save("""
                file: huts.csv
                format: { encoding: windows-1252 }
                map: { code: code, name: name }""");
        RunView run = run("code;name;beds;opens\nH-1;Lärche;8;\nH-2;→ Fern;9;\n", "write");
        assertThat(run.balance().rejected()).isEqualTo(1);
        assertThat(Files.readString(radio.resolve("huts.csv"), Charset.forName("windows-1252")))
                .isEqualTo("code,name\nH-1,Lärche\n");
    }

    @Test
    void aPlanSaysWhatWouldBeIssuedAndDeliversNothing() throws IOException {
        save("file: huts.jsonl\nmap: { code: code, beds: beds }");
        RunView dry = run(FILE, "dry-run");
        assertThat(dry.balance().issued()).isEqualTo(3);
        assertThat(dry.issued()).isEmpty();
        assertThat(radio).isEmptyDirectory();

        RunView held = run(FILE, "hold");
        assertThat(held.state()).isEqualTo("held");
        service.bean(LeftOut.class).say(held.id(), "2", true, "Wenna");
        service.bean(Runs.class).release(held.id(), false, "Perran");
        RunView released = service.settled(held.id());
        assertThat(released.state()).isEqualTo("finished");
        assertThat(released.balance().issued()).isEqualTo(2);
        assertThat(there("huts.jsonl")).isEqualTo("{\"code\":\"H-1\",\"beds\":8}\n{\"code\":\"H-3\",\"beds\":null}\n");
    }

    @Test
    void anotherFileOfTheNameIsNotReplacedUnlessTheJobSaysSo() throws IOException {
        Files.writeString(radio.resolve("huts.csv"), "somebody's\n");
        save("file: huts.csv\nmap: { code: code }");
        RunView refused = run(FILE, "write");
        assertThat(refused.state()).isEqualTo("failed");
        assertThat(told(refused.reasons()))
                .containsExactly("radio already holds another huts.csv; nothing was delivered.");
        assertThat(there("huts.csv")).isEqualTo("somebody's\n");
        save("file: huts.csv\nif-there: replace\nmap: { code: code }");
        assertThat(run(FILE, "write").state()).isEqualTo("finished");
        assertThat(there("huts.csv")).isEqualTo("code\nH-1\nH-2\nH-3\n");
    }

    @Test
    void aPlaceThatIsGoneFailsTheRunWithItsRemedy() throws IOException {
        save("file: huts.csv\nmap: { code: code }");
        Files.delete(radio);
        try {
            RunView run = run(FILE, "write");
            assertThat(run.state()).isEqualTo("failed");
            assertThat(told(run.reasons())).containsExactly("There is no folder " + radio + ".");
        } finally {
            Files.createDirectory(radio);
        }
    }

    /** Neither a number that is too wide nor a line end breaks the lines of the others. */
    @Test
    void whatDoesNotFitIntoALineRejectsItsRow() throws IOException {
        save("""
                file: huts.txt
                format: { as: fixed, columns: { code: 1-4, name: 6-10, beds: 11-12 } }
                map: { code: code, name: name, beds: beds }""");
        RunView run = run("code;name;beds;opens\nH-1;Larch;8;\nH-2;Fern;100;\nH-3;\"a\nb\";7;\n", "write");
        assertThat(run.balance().issued()).isEqualTo(1);
        assertThat(run.balance().rejected()).isEqualTo(2);
        assertThat(there("huts.txt")).isEqualTo("H-1  Larch 8\n");
    }

    @Test
    void whatIsIssuedCannotBeComparedWithATarget() {
        assertThatThrownBy(() -> service.bean(Jobs.class).save("huts.yaml", """
                        nachlauf: 1
                        job: no-target
                        read: { connection: inbox, file: huts.csv }
                        write: { connection: radio, action: issue, file: a.csv, map: { code: code } }
                        totals: { records: true }
                        """, false, "test"))
                .hasMessageContaining("What is issued can't be read back");
    }

    @Test
    void anExportOfTheOtherSystemConfirmsWhatWasIssued() throws Exception {
        save("""
                file: huts.csv
                key: [code]
                map: { code: code, name: name, beds: beds }""");
        RunView run = run(FILE, "write");
        String hash = service.keep(
                "export.csv", "beds;code;town\n8.0; H-1 ;Fernhead\n12;H-2;\n7;H-9;\n".getBytes(StandardCharsets.UTF_8));
        HttpResponse<String> answer = HttpClient.newHttpClient()
                .send(
                        service.request("/runs/" + run.id() + "/confirm?file=" + hash + "&name=export.csv")
                                .POST(HttpRequest.BodyPublishers.noBody())
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
        assertThat(answer.body())
                .contains("\"issued\":3,\"confirmed\":1,\"differs\":1,\"missing\":1,\"others\":1")
                .contains("\"key\":[\"H-2\"],\"found\":\"differs\",\"fields\":[{\"field\":\"beds\",\"written\":\"9\","
                        + "\"now\":\"12\"}]")
                .contains("\"key\":[\"H-3\"],\"found\":\"missing\"");
    }

    @Test
    void theSameKeyTwiceIsIssuedForNeitherRow() throws IOException {
        save("file: huts.csv\nkey: [code]\nmap: { code: code, name: name }");
        RunView run = run("code;name;beds;opens\nH-1;a;;\nH-2;b;;\nH-1;c;;\n", "write");
        assertThat(run.balance().issued()).isEqualTo(1);
        assertThat(there("huts.csv")).isEqualTo("code,name\nH-2,b\n");
    }

    @Test
    void whatIsWrongWithAJobIsSaidAtItsPlace() {
        assertThatThrownBy(() -> save("file: huts.xyz\nmap: { code: code }"))
                .hasMessageContaining("doesn't say in which format");
        assertThatThrownBy(() -> save("file: a.txt\ntext: { each: 'x ${nme}', escape: line }\nmap: { name: name }"))
                .hasMessageContaining("The map has no field nme, but the text has a place for it.");
        assertThatThrownBy(() -> save("file: a.txt\ntext: { each: 'x' }\nmap: { name: name }"))
                .hasMessageContaining("escape");
        assertThatThrownBy(() -> save("file: a.txt\ntext: { recorded: 'H-1', values: { name: Larch }, escape: line }\n"
                        + "map: { name: name }"))
                .hasMessageContaining("The recorded text doesn't hold 'Larch'");
        assertThatThrownBy(() -> save("file: a.csv\nformat: { delimitter: ';' }\nmap: { name: name }"))
                .hasMessageContaining("has no option delimitter");
    }
}

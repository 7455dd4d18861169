package dev.nachlauf.service.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import dev.nachlauf.api.IssuedFileView;
import dev.nachlauf.api.ProblemView;
import dev.nachlauf.api.ResubmitRejects;
import dev.nachlauf.api.RunView;
import dev.nachlauf.api.UndoRun;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.connection.Connections;
import dev.nachlauf.service.job.Jobs;
import java.io.IOException;
import java.io.OutputStream;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.BrokenBarrierException;
import java.util.concurrent.CyclicBarrier;
import java.util.stream.Stream;
import java.util.zip.GZIPOutputStream;
import org.apache.poi.ss.usermodel.Sheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Jobs that add rows to a file that is there. */
class StandingFilesTest {
    private static final String LIST = "code;name;beds;note\r\nH-1;Larch;8;\"by; hand\"\r\nH-2;Fern;9;\r\n";
    private static ServiceUnderTest service;
    private static Path wardens;
    private static int jobs;

    private String job;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        wardens = Files.createDirectories(ServiceUnderTest.folder().resolve("wardens"));
        service.bean(Connections.class)
                .save(
                        "wardens.yaml",
                        "nachlauf: 1\nconnection: wardens\ntype: folder\nsettings: { path: " + wardens
                                + ", quiet: 0 }\n",
                        "test");
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void aList() throws IOException {
        job = "list-" + ++jobs;
        try (Stream<Path> files = Files.list(wardens)) {
            for (Path file : files.toList()) {
                Files.delete(file);
            }
        }
        Files.writeString(wardens.resolve("list.csv"), LIST);
    }

    private void save(String action, String rest) {
        save("list.csv", action, rest);
    }

    /** What is only told for the file being given later doesn't keep the job from being saved. */
    private void save(String file, String action, String rest) {
        service.bean(Jobs.class).save("list.yaml", """
                nachlauf: 1
                job: %s
                read: { upload: huts, fields: { beds: { is: integer } } }
                unlike-last-time: allow
                write:
                  connection: wardens
                  file: %s
                  action: %s
                  key: [code]
                %s
                """.formatted(job, file, action, rest.indent(2)), true, "test");
    }

    private List<Problem> checked() {
        Jobs.Version version = service.bean(Jobs.class).newest(job);
        return service.bean(Jobs.class).problems(version);
    }

    private static final String MAP = "map: { code: code, beds: beds, name: name }";

    private RunView run(String rows, String mode) {
        return service.run(job, "huts.csv", ("code,name,beds\n" + rows).getBytes(StandardCharsets.UTF_8), mode);
    }

    private static String list() throws IOException {
        return Files.readString(wardens.resolve("list.csv"));
    }

    @Test
    void rowsWithTheKeyChangeAndOthersAreAddedBehind() throws IOException {
        save("upsert", MAP);
        RunView dry = run("H-3,Moss,5\nH-1,Larch,10\nH-2,Fern,9\n", "dry-run");
        assertThat(dry.reasons()).isEmpty();
        assertThat(dry.balance().inserted()).isEqualTo(1);
        assertThat(list()).isEqualTo(LIST);
        RunView run = run("H-3,Moss,5\nH-1,Larch,10\nH-2,Fern,9\n", "write");
        assertThat(run.reasons()).isEmpty();
        assertThat(run.state()).isEqualTo("finished");
        assertThat(run.balance().balanced()).isTrue();
        assertThat(List.of(
                        run.balance().inserted(),
                        run.balance().updated(),
                        run.balance().unchanged(),
                        run.balance().issued()))
                .containsExactly(1L, 1L, 1L, 0L);
        assertThat(run.changedFields()).isEqualTo(Map.of("beds", 1L));
        assertThat(list())
                .isEqualTo("code;name;beds;note\r\nH-1;Larch;10;by; hand\r\n".replace("by; hand", "\"by; hand\"")
                        + "H-2;Fern;9;\r\nH-3;Moss;5;\r\n");
        assertThat(run.issued())
                .extracting(IssuedFileView::name, IssuedFileView::rows, IssuedFileView::delivered)
                .containsExactly(tuple("list.csv", 3L, true));
        FileTime written = FileTime.from(Instant.parse("2026-05-01T08:00:00Z"));
        Files.setLastModifiedTime(wardens.resolve("list.csv"), written);
        RunView again = run("H-3,Moss,5\nH-1,Larch,10\nH-2,Fern,9\n", "write");
        assertThat(again.balance().unchanged()).isEqualTo(3);
        assertThat(Files.getLastModifiedTime(wardens.resolve("list.csv")))
                .as("what is there already is not put there again")
                .isEqualTo(written);
    }

    @Test
    void areTakenBackRowByRow() throws IOException {
        save("upsert", MAP);
        RunView run = run("H-3,Moss,5\nH-1,Larch,10\n", "write");
        String written = list();
        Files.writeString(wardens.resolve("list.csv"), written + "H-4;Birch;7;by hand\r\n");
        RunView undo = undone(run.id(), null);
        assertThat(undo.reasons()).isEmpty();
        assertThat(undo.state()).isEqualTo("finished");
        assertThat(undo.balance().updated()).isEqualTo(1);
        assertThat(undo.balance().deleted()).isEqualTo(1);
        assertThat(list()).as("what others have added stays").isEqualTo(LIST + "H-4;Birch;7;by hand\r\n");
        undone(undo.id(), null);
        assertThat(list())
                .as("what an undo undoes comes behind the others")
                .isEqualTo(LIST.replace("Larch;8", "Larch;10") + "H-4;Birch;7;by hand\r\nH-3;Moss;5;\r\n");
    }

    @Test
    void areReadBackAndComparedAndTheirFilesCanBeHadAgain() throws Exception {
        save("upsert", MAP);
        RunView run = run("H-3,Moss,5\nH-1,Larch,10\nH-2,Fern,9\n", "write");
        String verify = "/runs/" + run.id() + "/verify";
        assertThat(post(verify)).contains("\"equal\":2", "\"differs\":0", "\"gone\":0");
        String written = list();
        Files.writeString(wardens.resolve("list.csv"), written.replace("Moss;5", "Moss;6"));
        assertThat(post(verify)).contains("\"equal\":1", "\"differs\":1", "\"written\":\"5\",\"now\":\"6\"");
        assertThat(get("/runs/" + run.id() + "/issued/file?name=list.csv")).isEqualTo(written);
        RunView undo = undone(run.id(), null);
        assertThat(undo.balance().refused()).isEqualTo(1);
        assertThat(get("/runs/" + undo.id() + "/issued/file?name=list.csv"))
                .isEqualTo(list())
                .isEqualTo(LIST + "H-3;Moss;6;\r\n");
    }

    @Test
    void mendedRowsAreAddedToTheFileAsItIsThen() throws Exception {
        save("upsert", MAP);
        RunView run = run("H-1,Larch,10\nH-3,Moss,many\n", "write");
        assertThat(run.balance().rejected()).isEqualTo(1);
        String mend = "{\"rejects\":{\"run\":%d,\"where\":\"beds = 'many'\"},\"set\":{\"beds\":\"5\"}}";
        sent(service.request("/rejects/fix")
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(mend.formatted(run.id()))));
        Files.writeString(wardens.resolve("list.csv"), list() + "H-4;Birch;7;by hand\r\n");
        RunView child = service.settled(service.bean(RunResubmitting.class)
                .start(run.id(), new ResubmitRejects(null), "Perran")
                .id());
        assertThat(child.reasons()).isEmpty();
        assertThat(child.balance().inserted()).isEqualTo(1);
        assertThat(list()).isEqualTo(LIST.replace("Larch;8", "Larch;10") + "H-4;Birch;7;by hand\r\nH-3;Moss;5;\r\n");
    }

    /** An attempt that is broken off behind its delivery finds the file as it has left it. */
    @Test
    void isDeliveredOnceWhereAnAttemptIsBrokenOff() throws Exception {
        save("upsert", MAP);
        RunView run = run("H-3,Moss,5\n", "write");
        String delivered = list();
        service.execute("UPDATE run SET state = 'waiting', ended_at = NULL WHERE id = " + run.id());
        service.bean(RunExecution.class).attempt(run.id(), () -> false);
        assertThat(service.settled(run.id()).state()).isEqualTo("finished");
        assertThat(list()).isEqualTo(delivered);
    }

    private static String post(String path) throws Exception {
        return sent(service.request(path).POST(HttpRequest.BodyPublishers.noBody()));
    }

    private static String get(String path) throws Exception {
        return sent(service.request(path));
    }

    private static String sent(HttpRequest.Builder request) throws Exception {
        return HttpClient.newHttpClient()
                .send(request.build(), HttpResponse.BodyHandlers.ofString())
                .body();
    }

    @Test
    void aSheetOfAWorkbookTakesRowsAndGivesThemBack() throws IOException {
        try (XSSFWorkbook workbook = new XSSFWorkbook();
                OutputStream out = Files.newOutputStream(wardens.resolve("list.xlsx"))) {
            for (String name : List.of("Cover", "Huts")) {
                Sheet sheet = workbook.createSheet(name);
                sheet.createRow(0).createCell(0).setCellValue("code");
                sheet.getRow(0).createCell(1).setCellValue("beds");
                sheet.createRow(1).createCell(0).setCellValue("H-1");
                sheet.getRow(1).createCell(1).setCellValue(8);
            }
            workbook.write(out);
        }
        save("list.xlsx", "upsert", "format: { sheet: Huts }\nmap: { code: code, beds: beds }");
        RunView run = run("H-3,Moss,5\nH-1,Larch,10\n", "write");
        assertThat(run.reasons()).isEmpty();
        assertThat(run.balance().updated() + run.balance().inserted()).isEqualTo(2);
        assertThat(sheet("Huts")).containsExactly("code|beds", "H-1|10.0", "H-3|5.0");
        assertThat(sheet("Cover")).containsExactly("code|beds", "H-1|8.0");
        assertThat(undone(run.id(), null).reasons()).isEmpty();
        assertThat(sheet("Huts")).containsExactly("code|beds", "H-1|8.0");
    }

    private static List<String> sheet(String name) throws IOException {
        List<String> rows = new ArrayList<>();
        try (XSSFWorkbook workbook = new XSSFWorkbook(Files.newInputStream(wardens.resolve("list.xlsx")))) {
            workbook.getSheet(name).forEach(row -> rows.add(row.getCell(0) + "|" + row.getCell(1)));
        }
        return rows;
    }

    @Test
    void nestedFilesTakeRowsAndGiveThemBack() throws IOException {
        Map<String, String> files = Map.of(
                "list.json",
                "{ \"huts\": [\n  { \"code\": \"H-1\", \"at\": { \"name\": \"Larch\" }, \"beds\": 8 }\n] }\n",
                "list.xml",
                "<huts>\n  <hut code='H-1'><at><name>Larch</name></at><beds>8</beds></hut>\n</huts>\n");
        Map<String, String> changed = Map.of(
                "list.json",
                files.get("list.json")
                        .replace("8 }\n", "10 },\n  {\"code\":\"H-3\",\"at\":{\"name\":\"Moss\"},\"beds\":5}\n"),
                "list.xml",
                files.get("list.xml")
                        .replace(
                                "8</beds></hut>",
                                "10</beds></hut>\n  <hut code=\"H-3\"><at><name>Moss</name></at><beds>5</beds></hut>"));
        for (String file : files.keySet()) {
            Files.writeString(wardens.resolve(file), files.get(file));
            save(file, "upsert", "map: { code: code, beds: beds, at.name: name }");
            RunView run = run("H-3,Moss,5\nH-1,Larch,10\n", "write");
            assertThat(run.reasons()).isEmpty();
            assertThat(run.balance().inserted()).isEqualTo(1);
            assertThat(run.balance().updated()).isEqualTo(1);
            assertThat(wardens.resolve(file)).hasContent(changed.get(file));
            assertThat(run("H-1,Larch,10\n", "write").balance().unchanged()).isEqualTo(1);
            assertThat(undone(run.id(), null).reasons()).isEmpty();
            assertThat(wardens.resolve(file)).hasContent(files.get(file));
        }
    }

    @Test
    void aNestedFileThatARunHasMadeTakesMore() throws IOException {
        save("new.json", "upsert", "format: { record: list.huts }\n" + MAP);
        assertThat(run("H-3,Moss,5\n", "write").reasons()).isEmpty();
        assertThat(run("H-1,Larch,4\n", "write").reasons()).isEmpty();
        assertThat(wardens.resolve("new.json"))
                .hasContent("{\"list\":{\"huts\":[{\"code\":\"H-3\",\"beds\":5,\"name\":\"Moss\"},"
                        + "{\"code\":\"H-1\",\"beds\":4,\"name\":\"Larch\"}]}}");
        save("new.xml", "upsert", "format: { record: huts.hut }\n" + MAP);
        assertThat(run("H-3,Moss,5\n", "write").reasons()).isEmpty();
        assertThat(run("H-1,Larch,4\n", "write").reasons()).isEmpty();
        assertThat(wardens.resolve("new.xml")).hasContent("""
                <?xml version='1.0' encoding='UTF-8'?>
                <huts>
                  <hut>
                    <code>H-3</code>
                    <beds>5</beds>
                    <name>Moss</name>
                  </hut>
                  <hut>
                    <code>H-1</code>
                    <beds>4</beds>
                    <name>Larch</name>
                  </hut>
                </huts>
                """);
    }

    @Test
    void oneRowIsTakenBackAloneAndNotWhereItHasChanged() throws IOException {
        save("upsert", MAP);
        RunView run = run("H-2,Fern,12\nH-1,Larch,10\n", "write");
        undone(run.id(), Map.of("code", "H-2"));
        assertThat(list()).isEqualTo(LIST.replace("Larch;8", "Larch;10"));
        Files.writeString(wardens.resolve("list.csv"), LIST.replace("Larch;8", "Larch;11"));
        RunView late = undone(run.id(), Map.of("code", "H-1"));
        assertThat(late.balance().refused()).isEqualTo(1);
        assertThat(list()).isEqualTo(LIST.replace("Larch;8", "Larch;11"));
    }

    private static RunView undone(long run, Map<String, String> key) {
        return service.settled(service.bean(RunUndoing.class)
                .start(run, new UndoRun(key, null), "Wenna")
                .id());
    }

    @Test
    void aFileThatIsNotThereIsMade() throws IOException {
        save("new.csv", "upsert", MAP);
        RunView run = run("H-3,Moss,5\nH-1,Larch,\n", "write");
        assertThat(run.reasons()).isEmpty();
        assertThat(run.balance().inserted()).isEqualTo(2);
        assertThat(Files.readString(wardens.resolve("new.csv"))).isEqualTo("code,beds,name\nH-3,5,Moss\nH-1,,Larch\n");
        run("H-1,Larch,4\n", "write");
        assertThat(Files.readString(wardens.resolve("new.csv"))).isEqualTo("code,beds,name\nH-3,5,Moss\nH-1,4,Larch\n");
    }

    @Test
    void insertAndUpdateRejectWhatTheyDoNotMean() throws IOException {
        save("insert", MAP);
        assertThat(run("H-3,Moss,5\nH-1,Larch,10\n", "write").balance().refused())
                .isEqualTo(1);
        assertThat(list()).isEqualTo(LIST + "H-3;Moss;5;\r\n");
        save("update", "not-found: skip\n" + MAP);
        RunView update = run("H-9,Moss,5\nH-1,Larch,10\n", "write");
        assertThat(update.balance().skipped()).isEqualTo(1);
        assertThat(list()).isEqualTo(LIST.replace("Larch;8", "Larch;10") + "H-3;Moss;5;\r\n");
    }

    @Test
    void nothingIsDeliveredWhereSomebodyHasChangedTheFile() throws IOException {
        save("upsert", MAP);
        RunView held = run("H-1,Larch,10\n", "hold");
        Files.writeString(wardens.resolve("list.csv"), LIST + "H-4;Birch;7;by hand\r\n");
        service.bean(Runs.class).release(held.id(), false, "Tamsin");
        RunView failed = service.settled(held.id());
        assertThat(failed.state()).isEqualTo("failed");
        assertThat(failed.reasons())
                .extracting(ProblemView::code, ProblemView::sentence)
                .containsExactly(tuple(
                        "file-differs",
                        "The file list.csv in wardens has changed since the run has looked at it; nothing was"
                                + " delivered."));
        assertThat(list()).isEqualTo(LIST + "H-4;Birch;7;by hand\r\n");
        RunView undo = undone(failed.id(), null);
        assertThat(undo.balance().refused()).as("there is nothing to take back").isEqualTo(1);
        assertThat(list()).isEqualTo(LIST + "H-4;Birch;7;by hand\r\n");
    }

    /** Two jobs that have looked at the same file: what one of them adds is never lost to the other. */
    @Test
    void ofTwoHandsOneDeliversAndTheOtherIsTold() throws Exception {
        String first = job;
        save("upsert", MAP);
        job = first + "-other";
        save("upsert", MAP);
        for (int round = 0; round < 15; round++) {
            Files.writeString(wardens.resolve("list.csv"), LIST);
            List<Long> held = new ArrayList<>();
            for (String name : List.of(first, first + "-other")) {
                job = name;
                held.add(run((name.equals(first) ? "A-" : "B-") + round + ",New,1\n", "hold")
                        .id());
            }
            CyclicBarrier start = new CyclicBarrier(2);
            List<Thread> hands = held.stream()
                    .map(run -> Thread.ofPlatform().start(() -> released(run, start)))
                    .toList();
            for (Thread hand : hands) {
                hand.join();
            }
            List<String> states = held.stream()
                    .map(run -> service.settled(run).state())
                    .sorted()
                    .toList();
            assertThat(states).containsExactly("failed", "finished");
            String delivered = service.settled(held.getFirst()).state().equals("finished") ? "A-" : "B-";
            assertThat(list()).isEqualTo(LIST + delivered + round + ";New;1;\r\n");
        }
    }

    private static void released(long run, CyclicBarrier start) {
        try {
            start.await();
            service.bean(Runs.class).release(run, false, "Tamsin");
        } catch (InterruptedException | BrokenBarrierException e) {
            throw new IllegalStateException(e);
        }
    }

    @Test
    void aFileHasToBeOneAndNotPacked() throws IOException {
        Files.writeString(wardens.resolve("list-2.csv"), LIST);
        save("list*.csv", "upsert", "format: { as: delimited }\n" + MAP);
        assertThat(checked())
                .extracting(Problem::sentence)
                .contains("list*.csv is a pattern, but rows are added to one file.");
        try (OutputStream packed = new GZIPOutputStream(Files.newOutputStream(wardens.resolve("list.csv.gz")))) {
            packed.write(LIST.getBytes(StandardCharsets.UTF_8));
        }
        save("list.csv.gz", "upsert", "format: { as: delimited }\n" + MAP);
        assertThat(checked())
                .extracting(Problem::sentence)
                .contains("list.csv.gz is packed, so no rows can be added to it.");
    }

    @Test
    void aKeyThatIsThereTwiceIsAmbiguous() throws IOException {
        Files.writeString(wardens.resolve("list.csv"), LIST + "H-1;Larch;3;\r\n");
        save("upsert", MAP);
        RunView run = run("H-1,Larch,10\nH-2,Fern,10\n", "write");
        assertThat(run.balance().refused()).isEqualTo(1);
        assertThat(run.balance().updated()).isEqualTo(1);
        assertThat(list()).isEqualTo(LIST.replace("Fern;9", "Fern;10") + "H-1;Larch;3;\r\n");
    }

    @Test
    void whatTheFileCannotTakeIsSaidBefore() throws IOException {
        save("upsert", "map: { code: code, bed: beds }");
        assertThat(checked())
                .extracting(Problem::sentence, Problem::remedy)
                .contains(tuple("list.csv has no column bed.", "Did you mean beds?"));
        Files.writeString(wardens.resolve("list.json"), "{\"town\": \"Ashgate\", \"huts\": [{\"code\": \"H-1\"}]}");
        save("list.json", "upsert", "map: { code: code, root.town: name }");
        assertThat(checked())
                .extracting(Problem::sentence)
                .contains("The field root.town can't be written: it belongs to what stands around the records.");
        save("upsert", "format: { trailer: END }\n" + MAP);
        assertThat(checked())
                .extracting(Problem::sentence)
                .contains("list.csv ends with a line of figures, which would be wrong with other rows.");
        Files.writeString(wardens.resolve("list.csv"), LIST.replace(";9;", ";many;"));
        save("upsert", MAP);
        RunView unreadable = run("H-1,Larch,10\n", "write");
        assertThat(unreadable.state()).isEqualTo("failed");
        assertThat(unreadable.reasons())
                .extracting(ProblemView::sentence)
                .containsExactly("In list.csv, line 3: beds: 'many' is not an integer.");
        save("list.csv", "upsert", MAP + "\nif-there: replace");
        assertThat(checked())
                .extracting(Problem::sentence)
                .contains("if-there has no meaning where rows are added to a file that is there.");
        save("list.csv", "delete", MAP);
        assertThat(checked())
                .extracting(Problem::sentence)
                .contains("A file takes rows with action: issue, insert, update or upsert, not with delete.");
    }
}

package dev.nachlauf.service.reject;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.api.FileView;
import dev.nachlauf.api.FixRejects;
import dev.nachlauf.api.RejectView;
import dev.nachlauf.api.RejectsChosen;
import dev.nachlauf.api.ResubmitRejects;
import dev.nachlauf.api.RunView;
import dev.nachlauf.service.ServiceUnderTest;
import dev.nachlauf.service.file.FileStore;
import dev.nachlauf.service.job.Jobs;
import dev.nachlauf.service.run.RunResubmitting;
import dev.nachlauf.standins.postgresql.PrivateCluster;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Consumer;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Sheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Rejects go out as a workbook, are mended there by another library, and come back. */
class MendedSheetTest {
    private static final PrivateCluster CLUSTER = ServiceUnderTest.cluster();
    private static final String REGISTER = "register_of_mended";
    private static final String SPRING =
            "code;name;beds\nH-1;Larch;8\nH-2;Fern;many\nH-3;Moss;900\nH-4;Oak;3\nH-5;=1+1;none\n";
    private static final int CODE = 4;
    private static final int NAME = 5;
    private static final int BEDS = 6;
    private static ServiceUnderTest service;
    private static int jobs;

    private RunView run;

    @BeforeAll
    static void start() throws IOException {
        service = new ServiceUnderTest();
        CLUSTER.createDatabase(REGISTER);
        CLUSTER.execute(
                REGISTER, "CREATE TABLE hut (code text PRIMARY KEY, name text, beds integer CHECK (beds < 500))");
        service.connect(REGISTER);
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void load() {
        String job = "mended-" + ++jobs;
        CLUSTER.execute(REGISTER, "TRUNCATE hut");
        service.bean(Jobs.class).save("huts.yaml", """
                nachlauf: 1
                job: %s
                read: { connection: inbox, file: upload, format: { as: delimited, delimiter: ";" }, fields: { beds: { is: integer } } }
                write:
                  connection: register
                  records: hut
                  action: upsert
                  key: [code]
                  map: { code: code, name: name, beds: beds }
                """.formatted(job), false, "test");
        run = service.run(job, "huts.csv", SPRING.getBytes(StandardCharsets.UTF_8), null);
    }

    private byte[] exported() throws IOException, InterruptedException {
        HttpResponse<byte[]> answer = HttpClient.newHttpClient()
                .send(service.request("/rejects/sheet?run=" + run.id()).build(), BodyHandlers.ofByteArray());
        assertThat(answer.statusCode()).isEqualTo(200);
        assertThat(answer.headers().firstValue("Content-Disposition").orElse(""))
                .contains("rejects-of-run-" + run.id() + ".xlsx");
        return answer.body();
    }

    private static byte[] mended(byte[] workbook, Consumer<Sheet> hand) throws IOException {
        try (XSSFWorkbook read = new XSSFWorkbook(new ByteArrayInputStream(workbook))) {
            hand.accept(read.getSheet("Rejects"));
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            read.write(out);
            return out.toByteArray();
        }
    }

    private static Row row(Sheet sheet, String code) {
        for (Row row : sheet) {
            if (row.getCell(CODE) != null
                    && row.getCell(CODE).getStringCellValue().equals(code)) {
                return row;
            }
        }
        throw new AssertionError(code);
    }

    /** The library sets nothing but a cached value of a text that stands in the cell itself. */
    private static void set(Cell cell, String text) {
        cell.setBlank();
        cell.setCellValue(text);
    }

    private RunView send(byte[] workbook) throws IOException {
        FileView file = service.bean(FileStore.class).keep("mended.xlsx", new ByteArrayInputStream(workbook));
        return service.settled(service.bean(RunResubmitting.class)
                .start(run.id(), new ResubmitRejects(null, file.hash(), file.name(), null), "Perran")
                .id());
    }

    private List<RejectView> rejects() {
        return service.bean(Rejects.class).list(run.id(), null, true, null, 100).items();
    }

    private String told() {
        return String.join(
                ", ",
                rejects().stream()
                        .map(reject -> reject.row() + " " + reject.state() + " " + reject.attempts() + " "
                                + reject.corrections())
                        .toList());
    }

    private static String huts() {
        return CLUSTER.query(
                REGISTER, "SELECT string_agg(code || ' ' || name || ' ' || beds, ', ' ORDER BY code) FROM hut");
    }

    @Test
    void theWorkbookShowsEachRowWithWhatIsWrong() throws Exception {
        try (XSSFWorkbook workbook = new XSSFWorkbook(new ByteArrayInputStream(exported()))) {
            Sheet sheet = workbook.getSheet("Rejects");
            assertThat(sheet.getLastRowNum()).isEqualTo(3);
            assertThat(sheet.getRow(0))
                    .extracting(Object::toString)
                    .containsExactly("[reject]", "[edition]", "[place]", "[what is wrong]", "code", "name", "beds");
            assertThat(row(sheet, "H-2"))
                    .extracting(Object::toString)
                    .containsExactly(
                            String.valueOf(rejects().getFirst().id()),
                            "0",
                            "huts.csv, line 3",
                            "beds: 'many' is not an integer.",
                            "H-2",
                            "Fern",
                            "many");
            assertThat(row(sheet, "H-5").getCell(NAME).getCellType()).isEqualTo(CellType.STRING);
        }
    }

    /** Whoever has mended the others was not shown it. */
    @Test
    void aValueThatWasKeptIsNoCorrection() throws Exception {
        send(mended(exported(), sheet -> {
            row(sheet, "H-2").getCell(BEDS).setCellValue(7);
            set(row(sheet, "H-2").getCell(NAME), "•••");
        }));
        assertThat(told()).startsWith("2 closed 1 {beds=7}");
        assertThat(huts()).contains("H-2 Fern 7");
    }

    @Test
    void whatWasMendedGoesThroughAndOnlyWhatIsInTheWorkbookIsSent() throws Exception {
        byte[] back = mended(exported(), sheet -> {
            row(sheet, "H-2").getCell(BEDS).setCellValue(7);
            set(row(sheet, "H-5").getCell(BEDS), "4");
            row(sheet, "H-5").getCell(NAME).setBlank();
            sheet.removeRow(row(sheet, "H-3"));
            // sorted the other way round
            row(sheet, "H-2").setRowNum(9);
        });
        RunView child = send(back);
        assertThat(child.balance().read()).isEqualTo(2);
        assertThat(told()).isEqualTo("2 closed 1 {beds=7}, 3 open 1 {}, 5 closed 1 {beds=4, name=}");
        assertThat(CLUSTER.query(
                        REGISTER, "SELECT string_agg(code || coalesce(name, '-') || beds, ' ' ORDER BY code) FROM hut"))
                .isEqualTo("H-1Larch8 H-2Fern7 H-4Oak3 H-5-4");
    }

    @Test
    void nothingCountsWhereSomethingInTheWorkbookIsWrong() throws Exception {
        byte[] sheet = exported();
        assertThatThrownBy(() -> send(mended(sheet, one -> {
                    set(row(one, "H-2").getCell(BEDS), "7");
                    Row added = one.createRow(7);
                    added.createCell(CODE).setCellValue("H-9");
                })))
                .hasMessageContaining("This is not a row of a reject: mended.xlsx, Rejects, row 8.");
        assertThatThrownBy(() -> send(mended(sheet, one -> {
                    set(row(one, "H-2").getCell(0), row(one, "H-3").getCell(0).getStringCellValue());
                })))
                .hasMessageContaining("stands here a second time: mended.xlsx, Rejects, row 3.");
        assertThatThrownBy(() -> send(mended(sheet, one -> set(row(one, "H-2").getCell(0), "987654"))))
                .hasMessageContaining("has no reject 987654: mended.xlsx, Rejects, row 2.");
        assertThatThrownBy(() -> send(mended(sheet, one -> set(one.getRow(0).getCell(BEDS), "bunks"))))
                .hasMessageContaining("The source has no column bunks.");
        assertThatThrownBy(() -> send(mended(sheet, one -> set(one.getRow(0).getCell(0), "no"))))
                .hasMessageContaining("The column [reject] is missing.");
        assertThatThrownBy(() -> send(SPRING.getBytes(StandardCharsets.UTF_8)))
                .hasMessageContaining("mended.xlsx is not a workbook.");
        assertThat(told()).isEqualTo("2 open 1 {}, 3 open 1 {}, 5 open 1 {}");
        assertThat(huts()).isEqualTo("H-1 Larch 8, H-4 Oak 3");
    }

    @Test
    void aColumnThatWasRemovedSaysNothing() throws Exception {
        byte[] back = mended(exported(), sheet -> {
            set(row(sheet, "H-2").getCell(BEDS), "7");
            for (Row row : sheet) {
                row.removeCell(row.getCell(NAME));
            }
        });
        send(back);
        assertThat(told()).startsWith("2 closed 1 {beds=7}");
        assertThat(huts()).contains("H-2 Fern 7");
    }

    @Test
    void whatSomebodyElseHasDecidedMeanwhileIsNotOverwritten() throws Exception {
        byte[] early = exported();
        RejectsChosen fern = new RejectsChosen(List.of(rejects().getFirst().id()), null, null);
        service.bean(RejectDecisions.class).fix(new FixRejects(fern, Map.of("beds", "5")), "Wenna");
        byte[] back = mended(early, sheet -> {
            set(row(sheet, "H-2").getCell(BEDS), "7");
            set(row(sheet, "H-3").getCell(BEDS), "9");
        });
        assertThatThrownBy(() -> send(back))
                .hasMessageContaining("has changed since the workbook was written: mended.xlsx, Rejects, row 2.");
        assertThat(told()).as("nothing of it counts").isEqualTo("2 open 1 {beds=5}, 3 open 1 {}, 5 open 1 {}");
        // a newer workbook shows the other's correction, and may change it
        send(mended(exported(), sheet -> {
            assertThat(row(sheet, "H-2").getCell(BEDS)).hasToString("5");
            set(row(sheet, "H-2").getCell(BEDS), "6");
        }));
        assertThat(huts()).contains("H-2 Fern 6");
        assertThatThrownBy(() -> send(back)).hasMessageContaining("has changed since");
    }

    @Test
    void ofTwoWhoSendTheSameWorkbookBackOneComesFirst() throws Exception {
        byte[] one = mended(exported(), sheet -> set(row(sheet, "H-2").getCell(BEDS), "7"));
        byte[] other = mended(exported(), sheet -> set(row(sheet, "H-2").getCell(BEDS), "8"));
        try (ExecutorService hands = Executors.newFixedThreadPool(2)) {
            Callable<Object> first = () -> send(one);
            Callable<Object> second = () -> send(other);
            int refused = 0;
            for (Future<Object> sent : hands.invokeAll(List.of(first, second))) {
                try {
                    sent.get();
                } catch (java.util.concurrent.ExecutionException e) {
                    refused++;
                    assertThat(e.getCause()).hasMessageMatching("(?s).*(has changed since|can't be started now).*");
                }
            }
            assertThat(refused).isEqualTo(1);
        }
        assertThat(told()).matches("2 closed 1 \\{beds=[78]}, 3 open 2 \\{}, 5 open 2 \\{}");
        assertThat(huts()).matches(".*H-2 Fern [78],.*");
    }
}

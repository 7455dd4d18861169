package dev.nachlauf.connectors.format.workbook;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.connectors.format.ReadBack;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.ProblemCode;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Map;
import java.util.function.Consumer;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.assertj.core.api.Assertions;
import org.dhatim.fastexcel.VisibilityState;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class WorkbookFormatTest {
    @TempDir
    Path folder;

    private static byte[] xlsx(Consumer<Workbook> content) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (Workbook workbook = new Workbook(out, "test", "1.0")) {
            content.accept(workbook);
        } catch (IOException e) {
            throw new AssertionError(e);
        }
        return out.toByteArray();
    }

    private static ReadBack read(byte[] bytes, Map<String, String> options) {
        return ReadBack.of(new XlsxFormat(), "huts.xlsx", bytes, options);
    }

    private static void row(Worksheet sheet, int row, Object... values) {
        for (int i = 0; i < values.length; i++) {
            switch (values[i]) {
                case null -> {
                    // stays empty
                }
                case Number number -> sheet.value(row, i, number);
                case Boolean truth -> sheet.value(row, i, truth);
                default -> sheet.value(row, i, values[i].toString());
            }
        }
    }

    private static byte[] regions() {
        return xlsx(workbook -> {
            Worksheet north = workbook.newWorksheet("North");
            row(north, 0, "Spring list 2026");
            row(north, 1, "code", "name", "beds");
            row(north, 2, "N-1", "Ridge", 12);
            row(north, 4, "N-2", "Lake", 8.5);
            Worksheet south = workbook.newWorksheet("South");
            row(south, 0, "Spring list 2026");
            row(south, 1, "name", "code", "beds");
            row(south, 2, "Pass", "S-1", 20);
            Worksheet notes = workbook.newWorksheet("old");
            row(notes, 0, "code", "name", "beds");
            row(notes, 1, "X", "gone", 0);
            notes.setVisibilityState(VisibilityState.HIDDEN);
        });
    }

    @Test
    void readsAllSheetsThatLookAlikeAndLeavesHiddenOnesOut() {
        ReadBack read = read(regions(), Map.of());
        assertThat(read.option("sheets")).isEqualTo("all");
        assertThat(read.option("header-row")).isEqualTo("2");
        assertThat(read.names()).containsExactly("code", "name", "beds");
        assertThat(read.rows()).hasSize(3);
        assertThat(read.cells(1)).containsExactly("N-2", "Lake", new BigDecimal("8.5"));
        assertThat(read.cells(2)).containsExactly("S-1", "Pass", 20L);
        assertThat(read.rows().get(1).origin().text()).isEqualTo("huts.xlsx, North, row 5");
        assertThat(read.place(1, "beds")).isEqualTo("huts.xlsx, North!C5");
        assertThat(read.place(2, "code")).isEqualTo("huts.xlsx, South!B3");
    }

    @Test
    void readsSheetsByNameAndNumberAlsoHiddenOnes() {
        assertThat(read(regions(), Map.of("sheets", "South")).rows()).hasSize(1);
        assertThat(read(regions(), Map.of("sheets", "1")).rows()).hasSize(2);
        assertThat(read(regions(), Map.of("sheets", "North, old")).rows()).hasSize(3);
        Assertions.assertThatThrownBy(() -> read(regions(), Map.of("sheets", "Nord")))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().remedy()).contains("North"));
    }

    @Test
    void namesColumnsByPositionWhereTheJobSaysSo() {
        ReadBack read = read(regions(), Map.of("sheets", "North", "header-row", "0", "skip-rows", "2"));
        assertThat(read.names()).containsExactly("field_1", "field_2", "field_3");
        assertThat(read.cells(0)).containsExactly("N-1", "Ridge", 12L);
        assertThat(read.rows()).hasSize(2);
        assertThat(read.place(0, "field_3")).isEqualTo("huts.xlsx, North!C3");
    }

    @Test
    void givesTypedCells() {
        byte[] bytes = xlsx(workbook -> {
            Worksheet sheet = workbook.newWorksheet("one");
            row(sheet, 0, "date", "moment", "time", "padded", "text", "truth", "binary", "large");
            sheet.value(1, 0, LocalDate.of(2026, 5, 1));
            sheet.style(1, 0).format("dd.MM.yyyy").set();
            sheet.value(1, 1, LocalDateTime.of(2026, 5, 1, 13, 30, 15));
            sheet.style(1, 1).format("yyyy-MM-dd h:mm:ss").set();
            sheet.value(1, 2, 0.75);
            sheet.style(1, 2).format("HH:mm").set();
            sheet.value(1, 3, 42);
            sheet.style(1, 3).format("00000").set();
            sheet.value(1, 4, "007");
            sheet.value(1, 5, true);
            sheet.value(1, 6, 0.1 + 0.2);
            sheet.value(1, 7, 1_234_567_890_123L);
        });
        assertThat(read(bytes, Map.of()).cells(0))
                .containsExactly(
                        LocalDate.of(2026, 5, 1),
                        LocalDateTime.of(2026, 5, 1, 13, 30, 15),
                        LocalTime.of(18, 0),
                        "00042",
                        "007",
                        true,
                        new BigDecimal("0.3"),
                        1_234_567_890_123L);
    }

    @Test
    void joinsAHeadingOfTwoRows() {
        byte[] bytes = xlsx(workbook -> {
            Worksheet sheet = workbook.newWorksheet("tariffs");
            row(sheet, 0, "Tariffs of the union");
            row(sheet, 2, "category", "adult", null, "child", null);
            row(sheet, 3, null, "summer", "winter", "summer", "winter");
            row(sheet, 4, 1, 20, 25, 10, 12);
        });
        ReadBack read = read(bytes, Map.of("header-row", "3", "header-lines", "2"));
        assertThat(read.names())
                .containsExactly("category", "adult summer", "adult winter", "child summer", "child winter");
        assertThat(read.cells(0)).containsExactly(1L, 20L, 25L, 10L, 12L);
        assertThat(read(bytes, Map.of("header-lines", "2")).names()).contains("child winter");
        ReadBack detected = read(bytes, Map.of());
        assertThat(detected.names()).isEqualTo(read.names());
        assertThat(detected.option("header-row")).isEqualTo("3");
        assertThat(detected.option("header-lines")).isEqualTo("2");
        assertThat(read(bytes, Map.of("header-row", "4", "header-lines", "1")).names())
                .contains("summer", "winter (2)");
    }

    @Test
    void aRowBelowOneHeadingIsNoHeading() {
        byte[] gap = xlsx(workbook -> {
            Worksheet sheet = workbook.newWorksheet("huts");
            row(sheet, 0, "code", "name", null, "region");
            row(sheet, 1, "H-1", "Falkenkar", "open", "North");
            row(sheet, 2, "H-2", "Seeblick", "open", "South");
        });
        assertThat(read(gap, Map.of()).names()).containsExactly("code", "name", "field_3", "region");
        assertThat(read(gap, Map.of()).rows()).hasSize(2);
    }

    @Test
    void errorsAndValuesBesideTheTableAreRejects() {
        byte[] bytes =
                ods("""
                <table:table table:name="one"><table:table-row>%s%s</table:table-row>
                <table:table-row>%s<table:table-cell table:formula="of:=1/0" office:value-type="string"><text:p>#DIV/0!</text:p></table:table-cell></table:table-row>
                <table:table-row>%s%s%s</table:table-row></table:table>
                """.formatted(text("code"), text("beds"), text("H-1"), text("H-2"), text("3"), text("stray")));
        ReadBack read = ReadBack.of(new OdsFormat(), "huts.ods", bytes, Map.of("header-row", "1"));
        assertThat(read.problems(0)).containsExactly(ProblemCode.CELL_ERROR);
        assertThat(read.rows().getFirst().problems().getFirst().place().toString())
                .contains("one!B2");
        assertThat(read.problems(1)).containsExactly(ProblemCode.ROW_RAGGED);
    }

    private static String text(String value) {
        return "<table:table-cell office:value-type=\"string\"><text:p>" + value + "</text:p></table:table-cell>";
    }

    private static byte[] ods(String tables) {
        String content = """
                <?xml version="1.0" encoding="UTF-8"?>
                <office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"
                  xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0"
                  xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0"
                  xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0">
                <office:automatic-styles><style:style style:name="ta2"><style:table-properties table:display="false"/></style:style></office:automatic-styles>
                <office:body><office:spreadsheet>%s</office:spreadsheet></office:body></office:document-content>
                """.formatted(tables);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            zip.putNextEntry(new ZipEntry("mimetype"));
            zip.write("application/vnd.oasis.opendocument.spreadsheet".getBytes(StandardCharsets.UTF_8));
            zip.putNextEntry(new ZipEntry("content.xml"));
            zip.write(content.strip().getBytes(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new AssertionError(e);
        }
        return out.toByteArray();
    }

    @Test
    void readsOpenDocumentWithRepeatedCellsAndRows() {
        byte[] bytes = ods("""
                <table:table table:name="hidden" table:style-name="ta2"><table:table-row>%s</table:table-row></table:table>
                <table:table table:name="huts">
                <table:table-row>%s%s%s%s</table:table-row>
                <table:table-row>%s<table:table-cell office:value-type="date" office:date-value="2026-05-01"><text:p>1 May</text:p></table:table-cell>
                  <table:table-cell office:value-type="float" office:value="12.50"><text:p>12.50</text:p></table:table-cell>
                  <table:table-cell office:value-type="boolean" office:boolean-value="true"><text:p>TRUE</text:p></table:table-cell>
                  <table:table-cell table:number-columns-repeated="1000"/></table:table-row>
                <table:table-row table:number-rows-repeated="3"><table:table-cell/></table:table-row>
                <table:table-row table:number-rows-repeated="2">%s<table:table-cell table:number-columns-repeated="3"/></table:table-row>
                <table:table-row table:number-rows-repeated="1048000"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>
                </table:table>
                """.formatted(
                text("x"), text("code"), text("opens"), text("price"), text("winter"), text("H-1"), text("H-2")));
        ReadBack read = ReadBack.of(new OdsFormat(), "huts.ods", bytes, Map.of());
        assertThat(read.option("sheets")).isEqualTo("huts");
        assertThat(read.cells(0)).containsExactly("H-1", LocalDate.of(2026, 5, 1), new BigDecimal("12.5"), true);
        assertThat(read.rows()).hasSize(3);
        assertThat(read.rows()).extracting(row -> row.origin().line()).containsExactly(2L, 6L, 7L);
    }

    /** Blanks beyond the first, tabs and breaks are elements of their own. */
    @Test
    void readsEveryBlankOfOpenDocument() {
        byte[] bytes = ods("""
                <table:table table:name="huts"><table:table-row>%s%s</table:table-row>
                <table:table-row>%s<table:table-cell office:value-type="string"><text:p/><text:p>a<text:s text:c="3"/>b<text:tab/>c<text:line-break/>d</text:p></table:table-cell></table:table-row></table:table>
                """.formatted(text("code"), text("note"), text("H-1")));
        ReadBack read = ReadBack.of(new OdsFormat(), "huts.ods", bytes, Map.of());
        assertThat(read.cells(0)).containsExactly("H-1", "\na   b\tc\nd");
    }

    @Test
    void namesWhatASheetLacks() {
        byte[] bytes = xlsx(workbook -> {
            row(workbook.newWorksheet("a"), 0, "code", "beds");
            Worksheet b = workbook.newWorksheet("b");
            row(b, 0, "code", "name");
            row(b, 1, "H-1", "Hut");
        });
        ReadBack read = read(bytes, Map.of("sheets", "all", "header-row", "1"));
        assertThat(read.names()).containsExactly("code", "beds", "name");
        assertThat(read.lacks())
                .extracting(lack -> lack.part() + " " + lack.fields())
                .containsExactly("the sheet a [name]", "the sheet b [beds]");
        assertThat(read.cells(0)).containsExactly("H-1", null, "Hut");
    }

    @Test
    void aDamagedWorkbookIsAClearFailure() {
        byte[] whole = regions();
        byte[] half = java.util.Arrays.copyOf(whole, whole.length / 2);
        Assertions.assertThatThrownBy(() -> read(half, Map.of()))
                .isInstanceOfSatisfying(
                        CannotGoOn.class,
                        e -> assertThat(e.problems().getFirst().code()).isEqualTo(ProblemCode.FILE_MALFORMED));
    }

    @Test
    void aWorkbookNeedsNoStyles() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        Path whole = Files.write(folder.resolve("whole.xlsx"), regions());
        try (ZipFile in = new ZipFile(whole.toFile());
                ZipOutputStream zip = new ZipOutputStream(out)) {
            for (ZipEntry entry : in.stream().toList()) {
                String text = new String(in.getInputStream(entry).readAllBytes(), StandardCharsets.UTF_8);
                if (!entry.getName().equals("xl/styles.xml")) {
                    zip.putNextEntry(new ZipEntry(entry.getName()));
                    zip.write(text.replaceAll("<(Override|Relationship)[^>]*styles[^>]*/>", "")
                            .getBytes(StandardCharsets.UTF_8));
                }
            }
        }
        assertThat(read(out.toByteArray(), Map.of()).rows()).hasSize(3);
    }

    @Test
    void countsDaysAsSpreadsheetsDo() {
        assertThat(WorkbookDates.of(new BigDecimal("1"), false)).isEqualTo("1900-01-01T00:00");
        assertThat(WorkbookDates.of(new BigDecimal("59"), false)).isEqualTo("1900-02-28T00:00");
        assertThat(WorkbookDates.of(new BigDecimal("61"), false)).isEqualTo("1900-03-01T00:00");
        assertThat(WorkbookDates.of(new BigDecimal("46143.5"), false)).isEqualTo("2026-05-01T12:00");
        assertThat(WorkbookDates.of(new BigDecimal("44681"), true)).isEqualTo("2026-05-01T00:00");
    }

    @Test
    void columnsHaveLetters() {
        assertThat(SheetTable.letters(0)).isEqualTo("A");
        assertThat(SheetTable.letters(25)).isEqualTo("Z");
        assertThat(SheetTable.letters(26)).isEqualTo("AA");
        assertThat(SheetTable.letters(701)).isEqualTo("ZZ");
        assertThat(SheetTable.letters(702)).isEqualTo("AAA");
    }
}

package dev.nachlauf.connectors.format.workbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.connectors.format.Edited;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.ss.usermodel.DataFormatter;
import org.apache.poi.ss.usermodel.FillPatternType;
import org.apache.poi.ss.usermodel.IndexedColors;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Sheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.Test;

/** Workbooks are written and read back by another library than the one that edits them. */
class XlsxEditsTest {
    private static final Map<String, String> HUTS = Map.of("sheets", "Huts", "header-row", "2");

    private static byte[] bytes(XSSFWorkbook workbook) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        workbook.write(out);
        workbook.close();
        return out.toByteArray();
    }

    /** A list with a title, a sum, formats, a formula for each row, and formatted rows without anything behind them. */
    private static byte[] huts() throws IOException {
        XSSFWorkbook workbook = new XSSFWorkbook();
        Sheet huts = workbook.createSheet("Huts");
        huts.createRow(0).createCell(0).setCellValue("Spring list");
        huts.getRow(0).createCell(6).setCellFormula("SUM(C3:C100)");
        Row head = huts.createRow(1);
        List.of("code", "name", "beds", "price", "opens", "full")
                .forEach(name ->
                        head.createCell(Math.max(0, head.getLastCellNum())).setCellValue(name));
        CellStyle date = workbook.createCellStyle();
        date.setDataFormat(workbook.createDataFormat().getFormat("dd.mm.yyyy"));
        CellStyle red = workbook.createCellStyle();
        red.setFillForegroundColor(IndexedColors.RED.getIndex());
        red.setFillPattern(FillPatternType.SOLID_FOREGROUND);
        for (int i = 1; i <= 3; i++) {
            Row row = huts.createRow(1 + i);
            row.createCell(0).setCellValue("H-" + i);
            row.getCell(0).setCellStyle(red);
            row.createCell(1).setCellValue("Hut " + i);
            row.createCell(2).setCellValue(10 * i);
            row.createCell(4).setCellValue(LocalDate.of(2026, 5, i));
            row.getCell(4).setCellStyle(date);
            row.createCell(5).setCellFormula("C" + (2 + i) + "*2");
        }
        for (int i = 5; i < 8; i++) {
            huts.createRow(i).createCell(0).setCellStyle(red);
        }
        Sheet notes = workbook.createSheet("Remarks");
        notes.createRow(0).createCell(0).setCellValue("Nothing here changes");
        workbook.getCreationHelper().createFormulaEvaluator().evaluateAll();
        return bytes(workbook);
    }

    private static List<String> rows(Sheet sheet) {
        DataFormatter shown = new DataFormatter();
        List<String> rows = new ArrayList<>();
        for (Row row : sheet) {
            List<String> cells = new ArrayList<>();
            for (int i = 0; i < row.getLastCellNum(); i++) {
                Cell cell = row.getCell(i);
                cells.add(
                        cell != null && cell.getCellType() == CellType.FORMULA
                                ? "=" + cell.getCellFormula()
                                : shown.formatCellValue(cell));
            }
            rows.add(row.getRowNum() + 1 + " " + String.join("|", cells));
        }
        return rows;
    }

    @Test
    void changedCellsKeepTheirLooksAndNewRowsLookLikeTheLast() throws IOException {
        byte[] copy = new Edited()
                .row("Huts", 3, null, "Larch & <Fern>", 12L, new BigDecimal("18.50"), LocalDate.of(2026, 6, 30))
                .gone("Huts", 4)
                .added("H-9", "Moss", 7L, null, LocalDate.of(2026, 7, 1))
                .added("H-10", null, null, new BigDecimal("0.1"), null)
                .copy(new XlsxFormat(), "huts.xlsx", huts(), HUTS);
        try (XSSFWorkbook workbook = new XSSFWorkbook(new ByteArrayInputStream(copy))) {
            Sheet huts = workbook.getSheet("Huts");
            assertThat(rows(huts))
                    .containsExactly(
                            "1 Spring list||||||=SUM(C3:C100)",
                            "2 code|name|beds|price|opens|full",
                            "3 H-1|Larch & <Fern>|12|18.5|30.06.2026|=C3*2",
                            "5 H-3|Hut 3|30||03.05.2026|=C5*2",
                            "6 H-9|Moss|7||01.07.2026",
                            "7 H-10|||0.1|",
                            "8 ");
            assertThat(huts.getRow(2).getCell(2).getCellType()).isEqualTo(CellType.NUMERIC);
            assertThat(huts.getRow(5).getCell(0).getCellStyle().getFillForegroundColor())
                    .isEqualTo(IndexedColors.RED.getIndex());
            assertThat(rows(workbook.getSheet("Remarks"))).containsExactly("1 Nothing here changes");
            workbook.getCreationHelper().createFormulaEvaluator().evaluateAll();
            assertThat(huts.getRow(0).getCell(6).getNumericCellValue()).isEqualTo(49);
        }
    }

    @Test
    void readsBackWhatItHasWrittenInEveryKind() throws IOException {
        XSSFWorkbook workbook = new XSSFWorkbook();
        Sheet sheet = workbook.createSheet("Times");
        Row head = sheet.createRow(0);
        List.of("key", "day", "moment", "time", "open", "code")
                .forEach(name ->
                        head.createCell(Math.max(0, head.getLastCellNum())).setCellValue(name));
        Row row = sheet.createRow(1);
        row.createCell(0).setCellValue("a");
        String[] formats = {"yyyy-mm-dd", "yyyy-mm-dd hh:mm:ss", "hh:mm:ss"};
        for (int i = 0; i < formats.length; i++) {
            CellStyle style = workbook.createCellStyle();
            style.setDataFormat(workbook.createDataFormat().getFormat(formats[i]));
            row.createCell(1 + i).setCellValue(0.5);
            row.getCell(1 + i).setCellStyle(style);
        }
        row.createCell(4).setCellValue(true);
        Object[] first = {
            null,
            LocalDate.of(1900, 3, 1),
            LocalDateTime.of(2026, 11, 30, 23, 59, 59),
            LocalTime.of(0, 0, 1),
            false,
            "007"
        };
        Object[] second = {
            "b", LocalDate.of(1900, 2, 28), LocalDateTime.of(2024, 2, 29, 12, 0), LocalTime.of(12, 30), true, "=1+1"
        };
        byte[] copy = new Edited()
                .row("Times", 2, first)
                .added(second)
                .copy(new XlsxFormat(), "t.xlsx", bytes(workbook), Map.of());
        try (XSSFWorkbook read = new XSSFWorkbook(new ByteArrayInputStream(copy))) {
            assertThat(rows(read.getSheet("Times")))
                    .containsExactly(
                            "1 key|day|moment|time|open|code",
                            "2 a|1900-03-01|2026-11-30 23:59:59|00:00:01|FALSE|007",
                            "3 b|1900-02-28|2024-02-29 12:00:00|12:30:00|TRUE|=1+1");
            assertThat(read.getSheet("Times").getRow(2).getCell(5).getCellType())
                    .as("no text becomes a formula")
                    .isEqualTo(CellType.STRING);
        }
    }

    @Test
    void noFormulaIsOverwritten() {
        assertThatThrownBy(() -> new Edited()
                        .row("Huts", 4, null, null, null, null, null, 9L)
                        .copy(new XlsxFormat(), "huts.xlsx", huts(), HUTS))
                .hasMessageContaining("The cell F4 of the sheet Huts holds a formula, which is not overwritten.");
    }

    @Test
    void oneSheetHasToBeMeant() throws IOException {
        XSSFWorkbook workbook = new XSSFWorkbook();
        for (String name : List.of("South", "North")) {
            workbook.createSheet(name).createRow(0).createCell(0).setCellValue("code");
            workbook.getSheet(name).createRow(1).createCell(0).setCellValue(name);
        }
        byte[] file = bytes(workbook);
        assertThatThrownBy(() -> new Edited().copy(new XlsxFormat(), "huts.xlsx", file, Map.of("sheets", "all")))
                .hasMessageContaining("The rows of huts.xlsx stand in 2 sheets.");
        byte[] copy = new Edited().added("N-2").copy(new XlsxFormat(), "huts.xlsx", file, Map.of("sheets", "North"));
        try (XSSFWorkbook read = new XSSFWorkbook(new ByteArrayInputStream(copy))) {
            assertThat(rows(read.getSheet("North"))).containsExactly("1 code", "2 North", "3 N-2");
            assertThat(rows(read.getSheet("South"))).containsExactly("1 code", "2 South");
        }
    }
}

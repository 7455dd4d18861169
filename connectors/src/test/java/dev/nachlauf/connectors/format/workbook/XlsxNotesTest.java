package dev.nachlauf.connectors.format.workbook;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.connectors.format.Noted;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.ss.usermodel.FillPatternType;
import org.apache.poi.ss.usermodel.IndexedColors;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Sheet;
import org.apache.poi.ss.util.CellRangeAddress;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.Test;

/** Workbooks are written and read back by another library than the one that reads sources. */
class XlsxNotesTest {
    private static final List<String> HEADS = List.of("outcome", "message");

    private static byte[] bytes(XSSFWorkbook workbook) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        workbook.write(out);
        workbook.close();
        return out.toByteArray();
    }

    private static void row(Sheet sheet, int number, Object... values) {
        Row row = sheet.createRow(number);
        for (int i = 0; i < values.length; i++) {
            if (values[i] instanceof Number number1) {
                row.createCell(i).setCellValue(number1.doubleValue());
            } else {
                row.createCell(i).setCellValue(values[i].toString());
            }
        }
    }

    private static byte[] huts() throws IOException {
        XSSFWorkbook workbook = new XSSFWorkbook();
        Sheet north = workbook.createSheet("North");
        row(north, 0, "Spring list", "", "", "", "seen by Perran");
        north.addMergedRegion(new CellRangeAddress(0, 0, 0, 2));
        row(north, 1, "code", "beds", "price");
        row(north, 2, "N-1", 12, 30);
        north.getRow(2).createCell(3).setCellFormula("B3*C3");
        CellStyle red = workbook.createCellStyle();
        red.setFillForegroundColor(IndexedColors.RED.getIndex());
        red.setFillPattern(FillPatternType.SOLID_FOREGROUND);
        north.getRow(2).getCell(0).setCellStyle(red);
        row(north, 4, "N-2", 900, 20);
        north.setColumnWidth(0, 30 * 256);
        Sheet notes = workbook.createSheet("Remarks");
        row(notes, 0, "Nothing here is read <&>");
        workbook.getCreationHelper().createFormulaEvaluator().evaluateAll();
        return bytes(workbook);
    }

    private static Map<String, byte[]> parts(byte[] archive) throws IOException {
        Map<String, byte[]> parts = new HashMap<>();
        try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(archive))) {
            for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                parts.put(entry.getName(), in.readAllBytes());
            }
        }
        return parts;
    }

    @Test
    void cellsAreAddedBehindTheSheetAndTheRestStaysAsItIs() throws IOException {
        byte[] file = huts();
        byte[] copy = Noted.copy(
                new XlsxFormat(),
                "huts.xlsx",
                file,
                Map.of("sheets", "North", "header-row", "2"),
                HEADS,
                Map.of(
                        "North 3",
                        List.of("inserted", ""),
                        "North 5",
                        List.of("rejected", "beds: 900 <b> & more\nthan 200")));
        try (XSSFWorkbook workbook = new XSSFWorkbook(new ByteArrayInputStream(copy))) {
            Sheet north = workbook.getSheet("North");
            assertThat(north.getRow(1).getCell(5).getStringCellValue()).isEqualTo("outcome");
            assertThat(north.getRow(1).getCell(6).getStringCellValue()).isEqualTo("message");
            assertThat(north.getRow(2).getCell(5).getStringCellValue()).isEqualTo("inserted");
            assertThat(north.getRow(2).getCell(6)).isNull();
            assertThat(north.getRow(4).getCell(5).getStringCellValue()).isEqualTo("rejected");
            assertThat(north.getRow(4).getCell(6).getStringCellValue()).isEqualTo("beds: 900 <b> & more\nthan 200");
            assertThat(north.getRow(0).getCell(4).getStringCellValue()).isEqualTo("seen by Perran");
            assertThat(north.getRow(0).getCell(5)).isNull();
            Cell product = north.getRow(2).getCell(3);
            assertThat(product.getCellType()).isEqualTo(CellType.FORMULA);
            assertThat(product.getCellFormula()).isEqualTo("B3*C3");
            assertThat(product.getNumericCellValue()).isEqualTo(360);
            assertThat(north.getRow(2).getCell(0).getCellStyle().getFillForegroundColor())
                    .isEqualTo(IndexedColors.RED.getIndex());
            assertThat(north.getColumnWidth(0)).isEqualTo(30 * 256);
            assertThat(north.getColumnWidth(5)).isEqualTo(24 * 256);
            assertThat(north.getMergedRegions()).hasSize(1);
        }
        Map<String, byte[]> before = parts(file);
        Map<String, byte[]> after = parts(copy);
        assertThat(after.keySet()).isEqualTo(before.keySet());
        before.remove("xl/worksheets/sheet1.xml");
        assertThat(before)
                .allSatisfy((name, part) -> assertThat(after.get(name)).as(name).isEqualTo(part));
    }

    @Test
    void everySheetThatWasReadGetsItsOwn() throws IOException {
        XSSFWorkbook workbook = new XSSFWorkbook();
        for (String name : List.of("South", "North & more")) {
            Sheet sheet = workbook.createSheet(name);
            row(sheet, 0, "code", "beds");
            row(sheet, 1, name + "-1", 8);
        }
        byte[] copy = Noted.copy(
                new XlsxFormat(),
                "huts.xlsx",
                bytes(workbook),
                Map.of("sheets", "all"),
                HEADS,
                Map.of("South 2", List.of("inserted", ""), "North & more 2", List.of("unchanged", "")));
        try (XSSFWorkbook read = new XSSFWorkbook(new ByteArrayInputStream(copy))) {
            assertThat(read.getSheet("South").getRow(1).getCell(2).getStringCellValue())
                    .isEqualTo("inserted");
            assertThat(read.getSheet("North & more").getRow(1).getCell(2).getStringCellValue())
                    .isEqualTo("unchanged");
        }
    }

    @Test
    void aTableOfTextsIsReadBackAsItWas() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (var table = new XlsxTables()
                .write(out, "Rejects", List.of(new dev.nachlauf.core.system.TableFormat.Column("code", 12)))) {
            for (int i = 0; i < 1_200; i++) {
                table.row(List.of(i == 7 ? "=1+1 \u0001 <&>\r\nend" : "00" + i));
            }
        }
        try (XSSFWorkbook read = new XSSFWorkbook(new ByteArrayInputStream(out.toByteArray()))) {
            Sheet sheet = read.getSheet("Rejects");
            assertThat(sheet.getLastRowNum()).isEqualTo(1_200);
            Cell hostile = sheet.getRow(8).getCell(0);
            assertThat(hostile.getCellType()).isEqualTo(CellType.STRING);
            assertThat(hostile.getStringCellValue()).isEqualTo("=1+1 \uFFFD <&>\nend");
            assertThat(sheet.getRow(1_200).getCell(0).getStringCellValue()).isEqualTo("001199");
            assertThat(hostile.getCellStyle().getDataFormatString()).isEqualTo("@");
        }
    }
}

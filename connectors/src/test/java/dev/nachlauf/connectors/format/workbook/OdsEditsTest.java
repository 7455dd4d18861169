package dev.nachlauf.connectors.format.workbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.github.miachm.sods.Sheet;
import com.github.miachm.sods.SpreadSheet;
import dev.nachlauf.connectors.format.Edited;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;

/** What is edited is read back by another library. */
class OdsEditsTest {
    private static final Map<String, String> HUTS = Map.of("sheets", "Huts");

    /** A list as other programs write it: two rows alike, formats, a formula, blank rows with a count. */
    private static final String CONTENT = """
            <?xml version="1.0" encoding="UTF-8"?>
            <office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"
                xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0"
                xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" office:version="1.3">
             <office:automatic-styles/><office:body><office:spreadsheet>
              <table:table table:name="Huts"><table:table-column table:number-columns-repeated="16384"/>
               <table:table-row><table:table-cell office:value-type="string"><text:p>code</text:p></table:table-cell>
                <table:table-cell office:value-type="string"><text:p>name</text:p></table:table-cell>
                <table:table-cell office:value-type="string"><text:p>beds</text:p></table:table-cell>
                <table:table-cell office:value-type="string"><text:p>full</text:p></table:table-cell>
                <table:table-cell table:number-columns-repeated="16380"/></table:table-row>
               <table:table-row table:number-rows-repeated="2">
                <table:table-cell table:style-name="red" table:number-columns-repeated="2" office:value-type="string"><text:p>H-1</text:p></table:table-cell>
                <table:table-cell table:style-name="count" office:value-type="float" office:value="8"><text:p>8</text:p></table:table-cell>
                <table:table-cell table:number-columns-repeated="16381"/></table:table-row>
               <table:table-row><table:table-cell table:style-name="red" office:value-type="string"><text:p>H-3</text:p></table:table-cell>
                <table:table-cell/><table:table-cell table:style-name="count"/>
                <table:table-cell table:formula="of:=[.C4]*2" office:value-type="float" office:value="0"><text:p>0</text:p></table:table-cell></table:table-row>
               <table:table-row table:number-rows-repeated="1048572"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>
              </table:table>
              <table:table table:name="Remarks"><table:table-column/><table:table-row><table:table-cell office:value-type="string"><text:p>not read</text:p></table:table-cell></table:table-row></table:table>
             </office:spreadsheet></office:body>
            </office:document-content>
            """;

    private static byte[] workbook() throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
            zip.putNextEntry(new ZipEntry("mimetype"));
            zip.write("application/vnd.oasis.opendocument.spreadsheet".getBytes(StandardCharsets.US_ASCII));
            zip.putNextEntry(new ZipEntry("content.xml"));
            zip.write(CONTENT.replaceAll(">\\s+<", "><").getBytes(StandardCharsets.UTF_8));
        }
        return bytes.toByteArray();
    }

    private static List<String> rows(byte[] workbook, String sheet, int rows, int columns) throws IOException {
        Sheet read = new SpreadSheet(new ByteArrayInputStream(workbook)).getSheet(sheet);
        List<String> all = new ArrayList<>();
        for (int row = 0; row < rows; row++) {
            List<String> cells = new ArrayList<>();
            for (int column = 0; column < columns; column++) {
                Object value = read.getRange(row, column).getValue();
                cells.add(value == null ? "" : value.toString());
            }
            all.add(String.join("|", cells));
        }
        return all;
    }

    private static String content(byte[] workbook) throws IOException {
        Path file = Files.createTempFile("edited", ".ods");
        try {
            Files.write(file, workbook);
            try (ZipFile zip = new ZipFile(file.toFile())) {
                return new String(
                        zip.getInputStream(zip.getEntry("content.xml")).readAllBytes(), StandardCharsets.UTF_8);
            }
        } finally {
            Files.delete(file);
        }
    }

    @Test
    void changedCellsKeepTheirLooksAndNewRowsTakeThePlaceOfBlankOnes() throws IOException {
        byte[] copy = new Edited()
                .row("Huts", 2, null, "Larch & <Fern>", 12L)
                .row("Huts", 4, null, "two  blanks")
                .added("H-9", "Moss", new BigDecimal("7.5"))
                .added("H-10", null, null, true)
                .copy(new OdsFormat(), "huts.ods", workbook(), HUTS);
        assertThat(rows(copy, "Huts", 6, 4))
                .containsExactly(
                        "code|name|beds|full",
                        "H-1|Larch & <Fern>|12.0|",
                        "H-1|H-1|8.0|",
                        "H-3|two  blanks||0.0",
                        "H-9|Moss|7.5|",
                        "H-10|||true");
        assertThat(content(copy))
                .contains("<table:table-cell table:style-name=\"red\" office:value-type=\"string\"><text:p>Larch")
                .contains(
                        "<table:table-cell table:style-name=\"count\" office:value-type=\"float\" office:value=\"7.5\">")
                .as("the sheet is as long as before")
                .contains("table:number-rows-repeated=\"1048570\"")
                .contains("table:formula=\"of:=[.C4]*2\"");
        assertThat(rows(copy, "Remarks", 1, 1)).containsExactly("not read");
    }

    @Test
    void aRowThatGoesLeavesAnEmptyOneSoThatOthersStayWhereTheyAre() throws IOException {
        byte[] copy = new Edited()
                .gone("Huts", 3)
                .added("H-9", null, LocalDate.of(2026, 5, 1))
                .copy(new OdsFormat(), "huts.ods", workbook(), HUTS);
        assertThat(rows(copy, "Huts", 5, 3))
                .containsExactly("code|name|beds", "H-1|H-1|8.0", "||", "H-3||", "H-9||2026-05-01");
    }

    @Test
    void noFormulaIsOverwritten() {
        assertThatThrownBy(() -> new Edited()
                        .row("Huts", 4, null, null, null, 9L)
                        .copy(new OdsFormat(), "huts.ods", workbook(), HUTS))
                .hasMessageContaining("The cell D4 of the sheet Huts holds a formula, which is not overwritten.");
    }
}

package dev.nachlauf.connectors.format.workbook;

import static org.assertj.core.api.Assertions.assertThat;

import com.github.miachm.sods.Color;
import com.github.miachm.sods.Sheet;
import com.github.miachm.sods.SpreadSheet;
import com.github.miachm.sods.Style;
import dev.nachlauf.connectors.format.Noted;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.CRC32;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;

/** Workbooks are written and read back by another library than the one that reads sources. */
class OdsNotesTest {
    private static final List<String> HEADS = List.of("outcome", "message");
    private static final String MIMETYPE = "application/vnd.oasis.opendocument.spreadsheet";

    /** A document as other programs write it: the blank rest of rows and sheets with a count. */
    private static final String CONTENT = """
            <?xml version="1.0" encoding="UTF-8"?>
            <office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"
                xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0"
                xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:own="urn:own" office:version="1.3">
             <office:automatic-styles/><office:body><office:spreadsheet>
              <table:table table:name="North" own:kept="yes"><!-- by hand --><table:table-column table:number-columns-repeated="4"/>
               <table:table-row><table:table-cell office:value-type="string"><text:p>code</text:p></table:table-cell>
                <table:table-cell office:value-type="string"><text:p>beds</text:p></table:table-cell>
                <table:table-cell table:number-columns-repeated="2"/></table:table-row>
               <table:table-row table:number-rows-repeated="2" own:kept="row"><table:table-cell office:value-type="string"><text:p>N  1</text:p></table:table-cell>
                <table:table-cell office:value-type="float" office:value="8"><text:p>8</text:p></table:table-cell></table:table-row>
               <table:table-row table:number-rows-repeated="3"><table:table-cell table:number-columns-repeated="4"/></table:table-row>
               <table:table-row><table:table-cell office:value-type="string"><text:p>N2</text:p></table:table-cell>
                <table:table-cell/><table:table-cell table:style-name="red" table:number-columns-repeated="16382"/></table:table-row>
               <table:table-row table:number-rows-repeated="1048500"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>
              </table:table>
              <table:table table:name="Remarks"><table:table-column/><table:table-row><table:table-cell office:value-type="string"><text:p>not read</text:p></table:table-cell></table:table-row></table:table>
             </office:spreadsheet></office:body>
            </office:document-content>
            """;

    private static final String MANIFEST = """
            <manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.3">
             <manifest:file-entry manifest:full-path="/" manifest:media-type="%s"/>
             <manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/>
            </manifest:manifest>
            """.formatted(MIMETYPE);

    private static byte[] workbook(String content) throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
            byte[] type = MIMETYPE.getBytes(StandardCharsets.US_ASCII);
            CRC32 sum = new CRC32();
            sum.update(type);
            ZipEntry first = new ZipEntry("mimetype");
            first.setMethod(ZipEntry.STORED);
            first.setSize(type.length);
            first.setCrc(sum.getValue());
            zip.putNextEntry(first);
            zip.write(type);
            zip.putNextEntry(new ZipEntry("content.xml"));
            zip.write(content.replaceAll(">\\s+<", "><").getBytes(StandardCharsets.UTF_8));
            zip.putNextEntry(new ZipEntry("META-INF/manifest.xml"));
            zip.write(MANIFEST.getBytes(StandardCharsets.UTF_8));
            zip.putNextEntry(new ZipEntry("pictures/hut.svg"));
            zip.write("<svg/>".getBytes(StandardCharsets.UTF_8));
        }
        return bytes.toByteArray();
    }

    private static Map<String, String> parts(byte[] archive) throws IOException {
        Map<String, String> parts = new LinkedHashMap<>();
        try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(archive))) {
            for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                parts.put(entry.getName(), new String(in.readAllBytes(), StandardCharsets.UTF_8));
            }
        }
        return parts;
    }

    private static List<List<Object>> rows(byte[] workbook, String sheet, int rows, int columns) throws IOException {
        Sheet read = new SpreadSheet(new ByteArrayInputStream(workbook)).getSheet(sheet);
        List<List<Object>> all = new ArrayList<>();
        for (int row = 0; row < rows; row++) {
            List<Object> cells = new ArrayList<>();
            for (int column = 0; column < columns; column++) {
                Object value = read.getRange(row, column).getValue();
                cells.add(value == null ? "" : value);
            }
            all.add(cells);
        }
        return all;
    }

    @Test
    void cellsAreAddedBehindTheSheetAndTheRestStaysAsItIs() throws IOException {
        byte[] file = workbook(CONTENT);
        byte[] copy = Noted.copy(
                new OdsFormat(),
                "huts.ods",
                file,
                Map.of("sheets", "North"),
                HEADS,
                Map.of(
                        "North 2",
                        List.of("inserted", ""),
                        "North 3",
                        List.of("rejected", " two  blanks <b> and\nlines"),
                        "North 7",
                        List.of("unchanged", "")));
        assertThat(rows(copy, "North", 7, 4))
                .containsExactly(
                        List.of("code", "beds", "outcome", "message"),
                        List.of("N  1", 8.0, "inserted", ""),
                        List.of("N  1", 8.0, "rejected", " two  blanks <b> and\nlines"),
                        List.of("", "", "", ""),
                        List.of("", "", "", ""),
                        List.of("", "", "", ""),
                        List.of("N2", "", "unchanged", ""));
        assertThat(rows(copy, "Remarks", 1, 1)).containsExactly(List.of("not read"));
        Map<String, String> parts = parts(copy);
        assertThat(parts.keySet())
                .containsExactly("mimetype", "content.xml", "META-INF/manifest.xml", "pictures/hut.svg");
        assertThat(parts.get("content.xml"))
                .as("what we don't know is kept, and widths stay within the sheet's")
                .contains(
                        "own:kept=\"yes\"",
                        "own:kept=\"row\"",
                        "<!-- by hand -->",
                        "table:number-rows-repeated=\"1048500\"")
                .contains("<table:table-cell table:style-name=\"red\" table:number-columns-repeated=\"16380\"/>")
                .contains("<table:table-column table:number-columns-repeated=\"4\"/>");
        assertThat(new String(copy, 30, 8 + MIMETYPE.length(), StandardCharsets.US_ASCII))
                .as("the first part is known by its bytes")
                .isEqualTo("mimetype" + MIMETYPE);
    }

    @Test
    void aDocumentMayCallItsElementsAsItLikes() throws IOException {
        Map<String, List<String>> notes = Map.of("North 2", List.of("inserted", "a  b"));
        byte[] usual = Noted.copy(new OdsFormat(), "huts.ods", workbook(CONTENT), Map.of(), HEADS, notes);
        byte[] own = Noted.copy(new OdsFormat(), "huts.ods", workbook(renamed(CONTENT)), Map.of(), HEADS, notes);
        assertThat(parts(usual).get("content.xml")).contains("<text:p>a <text:s/>b</text:p>");
        assertThat(parts(own).get("content.xml")).isEqualTo(renamed(parts(usual).get("content.xml")));
    }

    private static String renamed(String content) {
        return content.replaceAll("(?<=[</ ])table:|(?<=xmlns:)table(?==)", "t:")
                .replace("xmlns:t:=", "xmlns:t=")
                .replaceAll("(?<=[</])text:", "x:")
                .replace("xmlns:text=", "xmlns:x=");
    }

    @Test
    void everySheetThatWasReadGetsItsOwnBehindWhatItHolds() throws IOException {
        SpreadSheet workbook = new SpreadSheet();
        for (String name : List.of("South", "North & more")) {
            Sheet sheet = new Sheet(name, 2, 3);
            sheet.getRange(0, 0, 1, 2).setValues("code", "beds");
            sheet.getRange(1, 0, 1, 2).setValues(name + "-1", 8);
            Style red = new Style();
            red.setBackgroundColor(new Color("#ff0000"));
            sheet.getRange(1, 0).setStyle(red);
            workbook.appendSheet(sheet);
        }
        workbook.getSheet("South").getRange(1, 2).setFormula("B2*2");
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        workbook.save(bytes);
        byte[] copy = Noted.copy(
                new OdsFormat(),
                "huts.ods",
                bytes.toByteArray(),
                Map.of("sheets", "all"),
                HEADS,
                Map.of("South 2", List.of("inserted", ""), "North & more 2", List.of("unchanged", "")));
        Sheet south = new SpreadSheet(new ByteArrayInputStream(copy)).getSheet("South");
        assertThat(south.getRange(1, 3).getValue()).isEqualTo("inserted");
        assertThat(south.getRange(0, 3).getValue()).isEqualTo("outcome");
        assertThat(south.getRange(1, 2).getFormula()).isEqualTo("B2*2");
        assertThat(south.getRange(1, 0).getStyle().getBackgroundColor()).isEqualTo(new Color("#ff0000"));
        Sheet north = new SpreadSheet(new ByteArrayInputStream(copy)).getSheet("North & more");
        assertThat(north.getRange(1, 2).getValue()).isEqualTo("unchanged");
    }
}

package dev.nachlauf.connectors.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.github.miachm.sods.Sheet;
import com.github.miachm.sods.SpreadSheet;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.system.Connectors;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.OutputFormat;
import dev.nachlauf.core.system.OutputFormat.Field;
import dev.nachlauf.core.system.OutputFormat.RowWriter;
import dev.nachlauf.core.value.Kind;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.StringReader;
import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import javax.xml.parsers.DocumentBuilderFactory;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.Test;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.ObjectReadContext;
import tools.jackson.core.json.JsonFactory;

/** What is written is read back by another library than the one that wrote it. */
class OutputsTest {
    private static final List<Field> FIELDS = List.of(
            new Field("code", Kind.TEXT),
            new Field("beds", Kind.INTEGER),
            new Field("price", Kind.DECIMAL),
            new Field("open", Kind.BOOLEAN),
            new Field("opens", Kind.DATE),
            new Field("seen", Kind.TIMESTAMP));

    /** Means something in every one of these formats. */
    private static final String HOSTILE = "=1+2;,\"'<b>&amp;]]>\n\r\n\ttab\\ ü→😀 {\"a\":1}";

    private static final Object[][] ROWS = {
        {"H-1", 8L, new BigDecimal("24.50"), true, LocalDate.of(2026, 5, 1), LocalDateTime.of(2026, 5, 1, 8, 30)},
        {HOSTILE, -9_007_199_254_740_993L, new BigDecimal("0.10000000000000000001"), false, null, null},
        {null, null, null, null, LocalDate.of(1999, 12, 31), null},
    };

    private static OutputFormat format(String name) {
        return Connectors.load().output(name).orElseThrow();
    }

    private static byte[] written(String format, Map<String, String> options, Object[]... rows) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (RowWriter writer = format(format).write(out, FIELDS, FormatOptions.of(options))) {
            for (Object[] row : rows) {
                writer.row(row);
            }
        }
        return out.toByteArray();
    }

    @Test
    void delimitedText() throws IOException {
        String text = new String(written("delimited", Map.of("delimiter", ";"), ROWS), StandardCharsets.UTF_8);
        List<CSVRecord> read = CSVFormat.RFC4180
                .builder()
                .setDelimiter(';')
                .get()
                .parse(new StringReader(text))
                .getRecords();
        assertThat(read).hasSize(4);
        assertThat(read.get(0).toList()).containsExactly("code", "beds", "price", "open", "opens", "seen");
        assertThat(read.get(1).toList())
                .containsExactly("H-1", "8", "24.50", "true", "2026-05-01", "2026-05-01 08:30:00");
        assertThat(read.get(2).toList())
                .containsExactly(HOSTILE, "-9007199254740993", "0.10000000000000000001", "false", "", "");
        assertThat(read.get(3).toList()).containsExactly("", "", "", "", "1999-12-31", "");
    }

    @Test
    void delimitedTextAsItIsAskedFor() throws IOException {
        Map<String, String> options =
                Map.of("header", "no", "quotes", "all", "line-ends", "crlf", "encoding", "windows-1252");
        byte[] bytes = written("delimited", options, new Object[] {"Hütte", 1L, null, null, null, null});
        assertThat(new String(bytes, Charset.forName("windows-1252")))
                .isEqualTo("\"Hütte\",\"1\",\"\",\"\",\"\",\"\"\r\n");
        FieldDescription demanded =
                format("delimited").demanded(FieldDescription.plain("code", Kind.TEXT), FormatOptions.of(options));
        assertThat(demanded.characters().encoding()).hasValue("windows-1252");
        assertThatThrownBy(() -> written("delimited", Map.of("encoding", "klingon")))
                .isInstanceOf(CannotGoOn.class)
                .hasMessageContaining("Nothing can be written in the encoding klingon");
    }

    @Test
    void json() throws IOException {
        List<Object> values = values(written("json", Map.of(), ROWS));
        assertThat(values)
                .containsExactly(
                        "H-1",
                        8L,
                        new BigDecimal("24.50"),
                        true,
                        "2026-05-01",
                        "2026-05-01T08:30:00",
                        HOSTILE,
                        -9_007_199_254_740_993L,
                        new BigDecimal("0.10000000000000000001"),
                        false,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        "1999-12-31",
                        null);
        assertThat(new String(written("json", Map.of()), StandardCharsets.UTF_8))
                .isEqualTo("[]\n");
        assertThat(new String(written("json", Map.of("record", "list.huts")), StandardCharsets.UTF_8))
                .isEqualTo("{\"list\":{\"huts\":[]}}\n");
        assertThatThrownBy(() -> demanded("json", "record", "list..huts"))
                .hasMessageContaining("'list..huts' was found");
    }

    /** What the check asks of a field, with an option. */
    private static FieldDescription demanded(String format, String option, String value) {
        return format(format)
                .demanded(FieldDescription.plain("code", Kind.TEXT), FormatOptions.of(Map.of(option, value)));
    }

    @Test
    void jsonLines() throws IOException {
        String text = new String(written("json-lines", Map.of(), ROWS), StandardCharsets.UTF_8);
        assertThat(text.lines()).hasSize(3).allMatch(line -> line.startsWith("{") && line.endsWith("}"));
        assertThat(values(text.lines().toList().get(1).getBytes(StandardCharsets.UTF_8))
                        .getFirst())
                .isEqualTo(HOSTILE);
        assertThat(written("json-lines", Map.of())).isEmpty();
    }

    private static List<Object> values(byte[] json) {
        List<Object> values = new ArrayList<>();
        try (JsonParser parser = new JsonFactory().createParser(ObjectReadContext.empty(), json)) {
            for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
                switch (token) {
                    case VALUE_STRING -> values.add(parser.getString());
                    case VALUE_NUMBER_INT -> values.add(parser.getLongValue());
                    case VALUE_NUMBER_FLOAT -> values.add(parser.getDecimalValue());
                    case VALUE_TRUE -> values.add(true);
                    case VALUE_FALSE -> values.add(false);
                    case VALUE_NULL -> values.add(null);
                    default -> {
                        // structure
                    }
                }
            }
        }
        return values;
    }

    @Test
    void xml() throws Exception {
        byte[] bytes = written("xml", Map.of("root", "huts", "record", "hut"), ROWS);
        Document document =
                DocumentBuilderFactory.newInstance().newDocumentBuilder().parse(new ByteArrayInputStream(bytes));
        assertThat(document.getDocumentElement().getTagName()).isEqualTo("huts");
        assertThat(document.getElementsByTagName("hut").getLength()).isEqualTo(3);
        Element second = (Element) document.getElementsByTagName("hut").item(1);
        assertThat(second.getElementsByTagName("code").item(0).getTextContent()).isEqualTo(HOSTILE);
        assertThat(second.getElementsByTagName("opens").getLength()).isZero();
        String declared = "<?xml version='1.0' encoding='UTF-8'?>\n";
        assertThat(new String(written("xml", Map.of("record", "list.huts.hut")), StandardCharsets.UTF_8))
                .isEqualTo(declared + "<list><huts>\n</huts></list>\n");
        assertThat(new String(written("xml", Map.of("root", "list", "record", "huts.hut")), StandardCharsets.UTF_8))
                .isEqualTo(declared + "<list><huts>\n</huts></list>\n");
        assertThat(new String(written("xml", Map.of()), StandardCharsets.UTF_8))
                .isEqualTo(declared + "<records>\n</records>\n");
        assertThatThrownBy(() -> demanded("xml", "record", "list.stay no")).hasMessageContaining("The element stay no");
        assertThatThrownBy(() -> demanded("xml", "root", "1st")).hasMessageContaining("The element 1st");
        assertThatThrownBy(
                        () -> format("xml").demanded(FieldDescription.plain("stay no", Kind.TEXT), FormatOptions.NONE))
                .hasMessageContaining("can't be the name of an element");
    }

    @Test
    void workbook() throws IOException {
        assertThatThrownBy(() -> format("xlsx")
                        .demanded(FieldDescription.plain("code", Kind.TEXT), FormatOptions.of(Map.of("sheet", "a/b"))))
                .hasMessageContaining("none of [ ] : * ? / \\, but a/b was found");
        byte[] bytes = written("xlsx", Map.of("sheet", "Huts"), ROWS);
        try (XSSFWorkbook book = new XSSFWorkbook(new ByteArrayInputStream(bytes))) {
            Row first = book.getSheet("Huts").getRow(1);
            assertThat(first.getCell(1).getNumericCellValue()).isEqualTo(8);
            assertThat(first.getCell(2).getNumericCellValue()).isEqualTo(24.5);
            assertThat(first.getCell(3).getBooleanCellValue()).isTrue();
            assertThat(first.getCell(4).getLocalDateTimeCellValue()).isEqualTo("2026-05-01T00:00:00");
            assertThat(first.getCell(5).getLocalDateTimeCellValue()).isEqualTo("2026-05-01T08:30:00");
            Row second = book.getSheet("Huts").getRow(2);
            assertThat(second.getCell(0).getCellType()).as("no formula").isEqualTo(CellType.STRING);
            assertThat(second.getCell(0).getStringCellValue()).isEqualTo(HOSTILE.replace("\r\n", "\n"));
            assertThat(second.getCell(1).getStringCellValue()).as("all digits").isEqualTo("-9007199254740993");
            assertThat(second.getCell(2).getStringCellValue()).isEqualTo("0.10000000000000000001");
            assertThat(book.getSheet("Huts").getRow(3).getCell(0)).isNull();
        }
    }

    @Test
    void openDocument() throws IOException {
        byte[] bytes = written("ods", Map.of("sheet", "Huts & more"), ROWS);
        assertThat(new String(bytes, 30, 54, StandardCharsets.US_ASCII))
                .as("its first bytes say what it is")
                .isEqualTo("mimetypeapplication/vnd.oasis.opendocument.spreadsheet");
        Sheet sheet = new SpreadSheet(new ByteArrayInputStream(bytes)).getSheet("Huts & more");
        assertThat(sheet.getDataRange().getValues()[0])
                .containsExactly("code", "beds", "price", "open", "opens", "seen");
        assertThat(sheet.getDataRange().getValues()[1])
                .containsExactly("H-1", 8.0, 24.5, true, LocalDate.of(2026, 5, 1), LocalDateTime.of(2026, 5, 1, 8, 30));
        assertThat(sheet.getRange(2, 0).getFormula()).as("no formula").isNull();
        assertThat(sheet.getRange(2, 1).getValue()).as("all digits").isEqualTo("-9007199254740993");
        assertThat(sheet.getRange(2, 2).getValue()).isEqualTo("0.10000000000000000001");
        assertThat(sheet.getRange(3, 0).getValue()).isNull();
    }

    /** Blanks and tabs have a spelling of their own there. */
    @Test
    void openDocumentKeepsEveryBlank() throws IOException {
        String text = "  two  before,\ta tab,  two   three behind  \n\nand a line " + HOSTILE;
        byte[] bytes = written("ods", Map.of(), new Object[] {text, null, null, null, null, null});
        ReadBack read = ReadBack.of(Connectors.load().format("ods").orElseThrow(), "blanks.ods", bytes, Map.of());
        assertThat(read.cells(0).getFirst()).isEqualTo(text.replace("\r\n", "\n"));
    }

    @Test
    void fixedWidth() throws IOException {
        Map<String, String> options =
                Map.of("columns", "code: 1-6, beds: 7-10, price: 11-18, open: 20-24, opens: 26-35, seen: 37-55");
        String text = new String(written("fixed", options, ROWS[0], ROWS[2]), StandardCharsets.UTF_8);
        assertThat(text.lines())
                .containsExactly(
                        "H-1      8   24.50 true  2026-05-01 2026-05-01 08:30:00",
                        "                         1999-12-31                    ");
        FieldDescription code =
                format("fixed").demanded(FieldDescription.plain("code", Kind.TEXT), FormatOptions.of(options));
        assertThat(code.length()).hasValue(6);
        assertThat(code.characters().refusal("H-1\nx")).isPresent();
    }
}

package dev.nachlauf.connectors.format;

import static org.assertj.core.api.Assertions.assertThat;

import de.siegmar.fastcsv.writer.CsvWriter;
import dev.nachlauf.connectors.format.delimited.DelimitedFormat;
import dev.nachlauf.connectors.format.json.JsonLinesFormat;
import dev.nachlauf.connectors.format.workbook.XlsxFormat;
import dev.nachlauf.connectors.format.xml.XmlFormat;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.StringWriter;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/** What a library writes is read back equal, for tables of every shape; the seed of each table is in its name. */
class WrittenIsReadTest {
    private static final String ALPHABET = "abc ;,\t\"'\n|#<>&{}[]\\/:äöüßéłŁ山😀0123456789.-";
    private static final int COLUMNS = 5;

    static List<Integer> seeds() {
        List<Integer> seeds = new ArrayList<>();
        for (int seed = 1; seed <= 60; seed++) {
            seeds.add(seed);
        }
        return seeds;
    }

    /** Rows of texts of which the first is never empty; a cell is null instead of an empty text. */
    private static List<String[]> table(int seed) {
        Random random = new Random(seed);
        List<String[]> rows = new ArrayList<>();
        int count = 2 + random.nextInt(30);
        for (int r = 0; r < count; r++) {
            String[] row = new String[COLUMNS];
            row[0] = "k" + r;
            for (int c = 1; c < COLUMNS; c++) {
                int length = random.nextInt(4) == 0 ? 0 : random.nextInt(20);
                StringBuilder text = new StringBuilder();
                for (int i = 0; i < length; i++) {
                    int at = random.nextInt(ALPHABET.codePointCount(0, ALPHABET.length()));
                    text.appendCodePoint(ALPHABET.codePointAt(ALPHABET.offsetByCodePoints(0, at)));
                }
                row[c] = text.isEmpty() ? null : "x" + text + "x";
            }
            rows.add(row);
        }
        return rows;
    }

    private static List<List<Object>> cells(ReadBack read) {
        return read.rows().stream().map(row -> Arrays.asList(row.cells())).toList();
    }

    private static List<List<Object>> expected(List<String[]> table) {
        return table.stream().map(row -> Arrays.<Object>asList((Object[]) row)).toList();
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void delimitedText(int seed) throws IOException {
        List<String[]> table = table(seed);
        char delimiter = ";,\t|".charAt(seed % 4);
        StringWriter text = new StringWriter();
        try (CsvWriter csv = CsvWriter.builder().fieldSeparator(delimiter).build(text)) {
            csv.writeRecord("key", "b", "c", "d", "e");
            table.forEach(row -> csv.writeRecord(row));
        }
        Map<String, String> options =
                Map.of("header-row", "1", "delimiter", delimiter == '\t' ? "tab" : String.valueOf(delimiter));
        ReadBack read =
                ReadBack.of(new DelimitedFormat(), "t.csv", text.toString().getBytes(StandardCharsets.UTF_8), options);
        assertThat(cells(read)).isEqualTo(expected(table));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void jsonLines(int seed) {
        List<String[]> table = table(seed);
        StringWriter text = new StringWriter();
        for (String[] row : table) {
            try (JsonGenerator json = JsonFactory.builder().build().createGenerator(ObjectWriteContext.empty(), text)) {
                json.writeStartObject();
                for (int c = 0; c < COLUMNS; c++) {
                    json.writeName("f" + c);
                    json.writeString(row[c]);
                }
                json.writeEndObject();
            }
            text.append('\n');
        }
        assertThat(cells(ReadBack.of(new JsonLinesFormat(), text.toString(), Map.of())))
                .isEqualTo(expected(table));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void xmlAttributes(int seed) throws XMLStreamException {
        List<String[]> table = table(seed);
        StringWriter text = new StringWriter();
        XMLStreamWriter xml = XMLOutputFactory.newFactory().createXMLStreamWriter(text);
        xml.writeStartElement("t");
        for (String[] row : table) {
            xml.writeStartElement("r");
            for (int c = 0; c < COLUMNS; c++) {
                xml.writeAttribute(
                        "f" + c, row[c] == null ? "" : row[c].replace("\n", " ").replace("\t", " "));
            }
            xml.writeEndElement();
        }
        xml.writeEndElement();
        xml.close();
        List<List<Object>> expected = expected(table).stream()
                .map(row -> row.stream()
                        .map(cell -> cell == null
                                ? null
                                : (Object) cell.toString().replace("\n", " ").replace("\t", " "))
                        .toList())
                .map(row -> (List<Object>) new ArrayList<Object>(row))
                .toList();
        assertThat(cells(ReadBack.of(new XmlFormat(), text.toString(), Map.of("record", "t.r"))))
                .isEqualTo(expected);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void workbooks(int seed) throws IOException {
        List<String[]> table = table(seed);
        Random random = new Random(seed);
        List<List<Object>> expected = new ArrayList<>();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (Workbook workbook = new Workbook(out, "test", "1.0")) {
            Worksheet sheet = workbook.newWorksheet("one");
            for (int c = 0; c < COLUMNS; c++) {
                sheet.value(0, c, "name " + c);
            }
            for (int r = 0; r < table.size(); r++) {
                List<Object> row = new ArrayList<>();
                for (int c = 0; c < COLUMNS; c++) {
                    row.add(cell(sheet, r + 1, c, table.get(r)[c], random));
                }
                expected.add(row);
            }
        }
        ReadBack read = ReadBack.of(new XlsxFormat(), "t.xlsx", out.toByteArray(), Map.of("header-row", "1"));
        assertThat(cells(read)).isEqualTo(expected);
    }

    private static Object cell(Worksheet sheet, int row, int column, String text, Random random) {
        switch (column == 0 ? 0 : random.nextInt(4)) {
            case 1 -> {
                long number = random.nextInt(1_000_000) - 500_000;
                sheet.value(row, column, number);
                return number;
            }
            case 2 -> {
                BigDecimal number = BigDecimal.valueOf(random.nextInt(1_000_000) * 100L + 1 + random.nextInt(98), 2);
                sheet.value(row, column, number);
                return number.stripTrailingZeros();
            }
            case 3 -> {
                boolean truth = random.nextBoolean();
                sheet.value(row, column, truth);
                return truth;
            }
            default -> {
                if (text != null) {
                    sheet.value(row, column, text);
                }
                return text;
            }
        }
    }
}

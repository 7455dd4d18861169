import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import dev.nachlauf.connectors.format.delimited.DelimitedFormat;
import dev.nachlauf.connectors.format.workbook.XlsxFormat;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.Sample;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.Sheet;

/**
 * Rows per second of reading and typing, in turns with the bare library over the same file. Both give the cells of every
 * row away to a sum, so that nothing is optimised away. Arguments: a delimited file, a folder for the workbook made of
 * it, pairs. Prints one line per pair: what, rows, seconds of the library, seconds of ours.
 */
final class ReadingBench {
    private static final int WORKBOOK_ROWS = 200_000;
    private static long sink;

    private ReadingBench() {}

    public static void main(String[] arguments) throws IOException {
        Path csv = Path.of(arguments[0]);
        Path xlsx = Path.of(arguments[1]).resolve("stays-" + WORKBOOK_ROWS + ".xlsx");
        if (!Files.exists(xlsx)) {
            workbook(csv, xlsx);
        }
        int pairs = Integer.parseInt(arguments[2]);
        Map<String, String> delimited = Map.of("delimiter", ";");
        Reading[] ofText = readings(new DelimitedFormat(), csv, delimited);
        for (int pair = 0; pair <= pairs; pair++) {
            print(pair, "delimited", time(() -> bareDelimited(csv)), time(() -> ours(new DelimitedFormat(), csv, delimited, ofText)));
        }
        Map<String, String> workbook = Map.of("header-row", "1");
        Reading[] ofSheet = readings(new XlsxFormat(), xlsx, workbook);
        for (int pair = 0; pair <= pairs; pair++) {
            print(pair, "workbook", time(() -> bareWorkbook(xlsx)), time(() -> ours(new XlsxFormat(), xlsx, workbook, ofSheet)));
        }
        System.err.println(sink);
    }

    private interface Work {
        long run() throws IOException;
    }

    private record Timed(long rows, double seconds) {}

    private static Timed time(Work work) throws IOException {
        System.gc();
        long start = System.nanoTime();
        long rows = work.run();
        return new Timed(rows, (System.nanoTime() - start) / 1e9);
    }

    /** The first pair warms up and doesn't count. */
    private static void print(int pair, String what, Timed bare, Timed ours) {
        if (pair > 0) {
            System.out.printf("%s\t%d\t%.3f\t%.3f%n", what, ours.rows, bare.seconds / bare.rows * ours.rows, ours.seconds);
        }
    }

    private static long bareDelimited(Path file) throws IOException {
        long rows = 0;
        try (CsvReader<CsvRecord> csv = CsvReader.builder().fieldSeparator(';').ofCsvRecord(Files.newBufferedReader(file))) {
            for (CsvRecord record : csv) {
                for (String cell : record.getFields()) {
                    sink += cell.length();
                }
                rows++;
            }
        }
        return rows;
    }

    private static long bareWorkbook(Path file) throws IOException {
        long[] rows = {0};
        try (ReadableWorkbook workbook = new ReadableWorkbook(file.toFile(), new ReadingOptions(true, true))) {
            for (Sheet sheet : workbook.getSheets().toList()) {
                try (var stream = sheet.openStream()) {
                    stream.forEach(row -> {
                        for (Cell cell : row) {
                            sink += cell == null || cell.getRawValue() == null ? 0 : cell.getRawValue().length();
                        }
                        rows[0]++;
                    });
                }
            }
        }
        return rows[0];
    }

    /** How fields are read: found once per file, and not part of the time per row. */
    private static Reading[] readings(SourceFormat format, Path file, Map<String, String> options) {
        SourceBytes bytes = SourceBytes.of(file.getFileName().toString(), file);
        try (SourceReader reader = format.read(bytes, FormatOptions.of(options))) {
            return Sample.take(reader).guesses().stream().map(guess -> guess.reading()).toArray(Reading[]::new);
        }
    }

    private static long ours(SourceFormat format, Path file, Map<String, String> options, Reading[] kinds) {
        SourceBytes bytes = SourceBytes.of(file.getFileName().toString(), file);
        TextParser[] parsers = Arrays.stream(kinds).map(Reading::parser).toArray(TextParser[]::new);
        long rows = 0;
        try (SourceReader reader = format.read(bytes, FormatOptions.of(options))) {
            for (SourceRow row = reader.next(); row != null; row = reader.next()) {
                rows++;
                for (int i = 0; i < kinds.length && row.problems().isEmpty(); i++) {
                    Object cell = row.cells()[i];
                    if (cell != null) {
                        try {
                            sink += Reading.read(cell, kinds[i].kind(), parsers[i]) == null ? 0 : 1;
                        } catch (ValueProblem bad) {
                            sink++;
                        }
                    }
                }
            }
        }
        return rows;
    }

    /** The first rows of the delimited file as a workbook: numbers as such, texts in the cells. */
    private static void workbook(Path csv, Path xlsx) throws IOException {
        String main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
        String office = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
        String pack = "http://schemas.openxmlformats.org/package/2006/";
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(xlsx));
                CsvReader<CsvRecord> rows = CsvReader.builder().fieldSeparator(';').ofCsvRecord(Files.newBufferedReader(csv))) {
            part(zip, "[Content_Types].xml", "<Types xmlns=\"" + pack + "content-types\"><Default Extension=\"rels\" ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/><Override PartName=\"/xl/workbook.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml\"/><Override PartName=\"/xl/worksheets/sheet1.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml\"/><Override PartName=\"/xl/styles.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.styles+xml\"/></Types>");
            part(zip, "xl/styles.xml", "<styleSheet xmlns=\"" + main + "\"><cellXfs count=\"1\"><xf/></cellXfs></styleSheet>");
            part(zip, "_rels/.rels", "<Relationships xmlns=\"" + pack + "relationships\"><Relationship Id=\"w\" Type=\"" + office + "/officeDocument\" Target=\"xl/workbook.xml\"/></Relationships>");
            part(zip, "xl/workbook.xml", "<workbook xmlns=\"" + main + "\" xmlns:r=\"" + office + "\"><sheets><sheet name=\"stays\" sheetId=\"1\" r:id=\"s\"/></sheets></workbook>");
            part(zip, "xl/_rels/workbook.xml.rels", "<Relationships xmlns=\"" + pack + "relationships\"><Relationship Id=\"s\" Type=\"" + office + "/worksheet\" Target=\"worksheets/sheet1.xml\"/><Relationship Id=\"t\" Type=\"" + office + "/styles\" Target=\"styles.xml\"/></Relationships>");
            zip.putNextEntry(new ZipEntry("xl/worksheets/sheet1.xml"));
            zip.write(("<worksheet xmlns=\"" + main + "\"><sheetData>").getBytes(StandardCharsets.UTF_8));
            int number = 0;
            for (CsvRecord record : rows) {
                number++;
                StringBuilder xml = new StringBuilder("<row r=\"" + number + "\">");
                for (int i = 0; i < record.getFieldCount(); i++) {
                    String value = record.getField(i).replace("&", "&amp;").replace("<", "&lt;");
                    String at = (char) ('A' + i) + String.valueOf(number);
                    xml.append(value.matches("\\d{1,9}")
                            ? "<c r=\"" + at + "\"><v>" + value + "</v></c>"
                            : "<c r=\"" + at + "\" t=\"inlineStr\"><is><t>" + value + "</t></is></c>");
                }
                zip.write(xml.append("</row>").toString().getBytes(StandardCharsets.UTF_8));
                if (number > WORKBOOK_ROWS) {
                    break;
                }
            }
            zip.write("</sheetData></worksheet>".getBytes(StandardCharsets.UTF_8));
            zip.closeEntry();
        }
    }

    private static void part(ZipOutputStream zip, String name, String xml) throws IOException {
        zip.putNextEntry(new ZipEntry(name));
        zip.write(("<?xml version=\"1.0\" encoding=\"UTF-8\"?>" + xml).getBytes(StandardCharsets.UTF_8));
        zip.closeEntry();
    }
}

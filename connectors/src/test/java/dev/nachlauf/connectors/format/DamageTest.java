package dev.nachlauf.connectors.format;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.connectors.format.delimited.DelimitedFormat;
import dev.nachlauf.connectors.format.fixed.FixedFormat;
import dev.nachlauf.connectors.format.json.JsonFormat;
import dev.nachlauf.connectors.format.json.JsonLinesFormat;
import dev.nachlauf.connectors.format.packed.Gzip;
import dev.nachlauf.connectors.format.packed.Zip;
import dev.nachlauf.connectors.format.workbook.OdsFormat;
import dev.nachlauf.connectors.format.workbook.XlsxFormat;
import dev.nachlauf.connectors.format.xml.XmlFormat;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.source.SpooledRecords;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.ReadsRecords.RecordCursor;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceContainer;
import dev.nachlauf.core.system.SourceFormat;
import dev.nachlauf.core.value.Kind;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * A good file, damaged at every place: each record of the original is read, or rejected with its place, or the file is
 * refused. Never are there fewer rows without a word. What no reader can know is stated here: a text that is cut at the
 * very end of a line is a shorter text.
 */
class DamageTest {
    private static final int RECORDS = 12;

    @TempDir
    Path folder;

    /**
     * A good file.
     *
     * @param byLine whether a file that ends between two lines is a good file too
     * @param container what it is packed in; null where it isn't
     * @param step how many bytes lie between two places, for formats that take long to open
     */
    private record Good(
            String name,
            SourceFormat format,
            Map<String, String> options,
            byte[] bytes,
            boolean byLine,
            @Nullable SourceContainer container,
            int step) {
        @Override
        public String toString() {
            return name;
        }
    }

    private static String lines(String head, String record, String foot) {
        StringBuilder text = new StringBuilder(head);
        IntStream.rangeClosed(1, RECORDS).forEach(n -> text.append(record.formatted(n, n, n * 7 % 10)));
        return text.append(foot).toString();
    }

    private static byte[] utf8(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    static Stream<Good> files() throws IOException {
        String csv = lines("code;name;beds\n", "H-%03d;Föhren hut %d;%d\n", "");
        String quoted = lines("code;name;beds\n", "H-%03d;\"Hut; %d\";\"%d\"\n", "");
        String fixed = lines("", "H-%03d Hut %02d  %d\n", "");
        String json = lines("{\"season\":2026,\"huts\":[", "{\"code\":\"H-%03d\",\"name\":\"Hut %d\",\"beds\":%d},", "")
                .replaceAll(",$", "]}\n");
        String jsonLines = lines("", "{\"code\":\"H-%03d\",\"name\":\"Hut %d\",\"beds\":%d}\n", "");
        String xml = lines(
                "<?xml version=\"1.0\"?>\n<huts>\n",
                "<hut><code>H-%03d</code><name>Hut %d</name><beds>%d</beds></hut>\n",
                "</huts>\n");
        Map<String, String> delimited = Map.of("delimiter", ";", "header-row", "1", "encoding", "utf-8");
        return Stream.of(
                new Good("delimited", new DelimitedFormat(), delimited, utf8(csv), true, null, 1),
                new Good("delimited, quoted", new DelimitedFormat(), delimited, utf8(quoted), true, null, 1),
                new Good(
                        "fixed width",
                        new FixedFormat(),
                        Map.of("columns", "code: 1-5, name: 7-12, beds: 15-15", "header-row", "0"),
                        utf8(fixed),
                        true,
                        null,
                        1),
                new Good("json", new JsonFormat(), Map.of("record", "huts"), utf8(json), false, null, 1),
                new Good("json lines", new JsonLinesFormat(), Map.of(), utf8(jsonLines), true, null, 1),
                new Good("xml", new XmlFormat(), Map.of("record", "huts.hut"), utf8(xml), false, null, 1),
                new Good("xlsx", new XlsxFormat(), Map.of(), xlsx(), false, null, 13),
                new Good("ods", new OdsFormat(), Map.of(), ods(), false, null, 3),
                new Good("gzip", new DelimitedFormat(), delimited, gzip(utf8(csv)), false, new Gzip(), 1),
                new Good("zip", new DelimitedFormat(), delimited, zip(utf8(csv)), false, new Zip(), 1),
                new Good("kept records", new SpooledRecords(), Map.of(), records(), false, null, 1));
    }

    private static byte[] xlsx() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (Workbook workbook = new Workbook(out, "test", "1.0")) {
            Worksheet sheet = workbook.newWorksheet("one");
            sheet.value(0, 0, "code");
            sheet.value(0, 1, "beds");
            for (int r = 1; r <= RECORDS; r++) {
                sheet.value(r, 0, "H-" + r);
                sheet.value(r, 1, r);
            }
        }
        return out.toByteArray();
    }

    private static byte[] ods() throws IOException {
        String row =
                "<table:table-row><table:table-cell office:value-type=\"string\"><text:p>%s</text:p></table:table-cell>"
                        + "<table:table-cell office:value-type=\"float\" office:value=\"%d\"/></table:table-row>";
        StringBuilder rows = new StringBuilder(
                row.replace("float\" office:value=\"%d\"/>", "string\"><text:p>beds</text:p></table:table-cell>")
                        .formatted("code"));
        IntStream.rangeClosed(1, RECORDS).forEach(n -> rows.append(row.formatted("H-" + n, n)));
        String content = "<office:document-content xmlns:office=\"urn:oasis:names:tc:opendocument:xmlns:office:1.0\""
                + " xmlns:table=\"urn:oasis:names:tc:opendocument:xmlns:table:1.0\""
                + " xmlns:text=\"urn:oasis:names:tc:opendocument:xmlns:text:1.0\"><office:body><office:spreadsheet>"
                + "<table:table table:name=\"one\">" + rows
                + "</table:table></office:spreadsheet></office:body></office:document-content>";
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            entry(zip, "mimetype", utf8("application/vnd.oasis.opendocument.spreadsheet"));
            entry(zip, "content.xml", utf8(content));
        }
        return out.toByteArray();
    }

    private static void entry(ZipOutputStream zip, String name, byte[] bytes) throws IOException {
        zip.putNextEntry(new ZipEntry(name));
        zip.write(bytes);
        zip.closeEntry();
    }

    private static byte[] gzip(byte[] bytes) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
            gzip.write(bytes);
        }
        return out.toByteArray();
    }

    private static byte[] zip(byte[] bytes) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            entry(zip, "huts.csv", bytes);
        }
        return out.toByteArray();
    }

    private static byte[] records() throws IOException {
        Iterator<Object[]> rows = IntStream.rangeClosed(1, RECORDS)
                .mapToObj(n -> new Object[] {"H-" + n, (long) n})
                .iterator();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        SpooledRecords.write(
                new RecordCursor() {
                    @Override
                    public List<Field> fields() {
                        return List.of(new Field("code", Kind.TEXT), new Field("beds", Kind.INTEGER));
                    }

                    @Override
                    public @Nullable Object @Nullable [] next() {
                        return rows.hasNext() ? rows.next() : null;
                    }

                    @Override
                    public void close() {
                        // nothing is held open
                    }
                },
                out);
        return out.toByteArray();
    }

    /** The rows of a file; empty where it is refused. */
    private List<SourceRow> read(Good good, byte[] bytes) {
        String name = good.name.equals("gzip") ? "huts.csv.gz" : good.name.equals("zip") ? "huts.zip" : "huts";
        SourceBytes opened = new SourceBytes() {
            @Override
            public String file() {
                return name;
            }

            @Override
            public InputStream open() {
                return new ByteArrayInputStream(bytes);
            }

            @Override
            public Path path() throws IOException {
                Path file = folder.resolve("damaged");
                // a file that is emptied first goes to the disk at once, thousands of times
                Files.deleteIfExists(file);
                return Files.write(file, bytes);
            }
        };
        try {
            if (good.container == null) {
                return ReadBack.of(good.format, opened, FormatOptions.of(good.options))
                        .rows();
            }
            List<SourceRow> rows = new ArrayList<>();
            for (SourceBytes member : good.container.members(opened, folder).orElse(List.of(opened))) {
                rows.addAll(ReadBack.of(good.format, member, FormatOptions.of(good.options))
                        .rows());
            }
            return rows;
        } catch (CannotGoOn e) {
            return List.of();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A rejected row may stand for two that have run together. */
    private static long accounted(List<SourceRow> rows) {
        return rows.size()
                + rows.stream().filter(row -> !row.problems().isEmpty()).count();
    }

    private void requireAll(Good good, byte[] damaged, long records, String how) {
        List<SourceRow> rows = read(good, damaged);
        if (!rows.isEmpty()) {
            assertThat(accounted(rows)).as(good + ", " + how).isGreaterThanOrEqualTo(records);
        }
    }

    @ParameterizedTest
    @MethodSource("files")
    void isGood(Good good) {
        List<SourceRow> rows = read(good, good.bytes);
        assertThat(rows).hasSize(RECORDS).allMatch(row -> row.problems().isEmpty());
    }

    @ParameterizedTest
    @MethodSource("files")
    void cutAtEveryPlace(Good good) {
        for (int length = 0; length < good.bytes.length; length += good.step) {
            byte[] cut = Arrays.copyOf(good.bytes, length);
            long whole = good.byLine ? begun(good, cut) : RECORDS;
            requireAll(good, cut, whole, "cut after " + length + " bytes");
        }
    }

    /** How many records a text by lines has at least begun. */
    private static long begun(Good good, byte[] text) {
        long lines = new String(text, StandardCharsets.UTF_8)
                .lines()
                .filter(line -> !line.isBlank())
                .count();
        return good.options.getOrDefault("header-row", "0").equals("1") ? Math.max(0, lines - 1) : lines;
    }

    @ParameterizedTest
    @MethodSource("files")
    void oneByteChanged(Good good) {
        for (int at = 0; at < good.bytes.length; at += good.step) {
            for (byte other : new byte[] {'"', ';', '\n', (byte) 0xFF, (byte) (good.bytes[at] ^ 1), 0}) {
                if (other != good.bytes[at]) {
                    byte[] changed = good.bytes.clone();
                    changed[at] = other;
                    requireAll(good, changed, RECORDS, "byte " + at + " is " + other);
                }
            }
        }
    }

    @ParameterizedTest
    @MethodSource("files")
    void aPartDoubled(Good good) {
        if (!(good.format instanceof DelimitedFormat || good.byLine) || good.container != null) {
            return;
        }
        String text = new String(good.bytes, StandardCharsets.UTF_8);
        List<String> lines = text.lines().toList();
        for (int doubled = 0; doubled < lines.size(); doubled++) {
            List<String> more = new ArrayList<>(lines);
            more.add(doubled, lines.get(doubled));
            requireAll(good, utf8(String.join("\n", more) + "\n"), RECORDS + 1, "line " + doubled + " twice");
        }
    }
}

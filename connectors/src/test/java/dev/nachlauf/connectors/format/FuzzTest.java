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
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceContainer;
import dev.nachlauf.core.system.SourceFormat;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Stream;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Random and mutated bytes: rows, a clear reject or a clear failure; never a hang, an overflow, or another exception. */
@Order(1) // takes longest
class FuzzTest {
    private static final int ROUNDS = 250;
    private static final Duration PATIENCE = Duration.ofSeconds(60);

    @TempDir
    Path folder;

    static Stream<Arguments> formats() throws IOException {
        byte[] csv =
                "code;name;beds\nH-001;\"Föhren \"\"old\"\"\nhut\";12\n# x\nTOTAL;1\n".getBytes(StandardCharsets.UTF_8);
        byte[] json = "{\"y\":1,\"r\":[{\"c\":\"a\",\"t\":[{\"n\":1.5},{\"n\":null}]},{\"c\":true}]}"
                .getBytes(StandardCharsets.UTF_8);
        byte[] lines = "{\"a\":1,\"b\":{\"c\":\"x\"}}\n{\"a\":2,\"l\":[1,2]}\n".getBytes(StandardCharsets.UTF_8);
        byte[] xml = "<?xml version=\"1.0\"?><s y=\"1\"><r c=\"N\"><t n=\"1\"><k>x &amp; y</k></t><t n=\"2\"/></r></s>"
                .getBytes(StandardCharsets.UTF_8);
        return Stream.of(
                Arguments.of(new DelimitedFormat(), csv, Map.of()),
                Arguments.of(new DelimitedFormat(), csv, Map.of("escape", "\\", "comment", "#", "trailer", "TOTAL")),
                Arguments.of(new FixedFormat(), csv, Map.of("columns", "a: 1-3, b: 4-9")),
                Arguments.of(new JsonFormat(), json, Map.of()),
                Arguments.of(new JsonFormat(), json, Map.of("record", "r.t")),
                Arguments.of(new JsonLinesFormat(), lines, Map.of()),
                Arguments.of(new XmlFormat(), xml, Map.of()),
                Arguments.of(new XmlFormat(), xml, Map.of("record", "s.r.t")),
                Arguments.of(new XlsxFormat(), xlsx(), Map.of()),
                Arguments.of(new OdsFormat(), ods(), Map.of()));
    }

    private static byte[] xlsx() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (Workbook workbook = new Workbook(out, "test", "1.0")) {
            Worksheet sheet = workbook.newWorksheet("one");
            for (int r = 0; r < 5; r++) {
                sheet.value(r, 0, "name " + r);
                sheet.value(r, 1, r * 1.5);
            }
        }
        return out.toByteArray();
    }

    private static byte[] ods() throws IOException {
        String content = "<d xmlns:table=\"urn:oasis:names:tc:opendocument:xmlns:table:1.0\""
                + " xmlns:office=\"urn:oasis:names:tc:opendocument:xmlns:office:1.0\" xmlns:text=\"t\">"
                + "<table:table table:name=\"a\"><table:table-row><table:table-cell><text:p>n</text:p></table:table-cell>"
                + "</table:table-row><table:table-row table:number-rows-repeated=\"3\"><table:table-cell"
                + " office:value-type=\"float\" office:value=\"1\"/></table:table-row></table:table></d>";
        return zip("content.xml", content);
    }

    private static byte[] zip(String name, String content) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            zip.putNextEntry(new ZipEntry(name));
            zip.write(content.getBytes(StandardCharsets.UTF_8));
        }
        return out.toByteArray();
    }

    @ParameterizedTest
    @MethodSource("formats")
    void mutatedFilesGiveRowsOrClearFindings(SourceFormat format, byte[] sound, Map<String, String> options) {
        Random random = new Random(20_263);
        Assertions.assertTimeoutPreemptively(PATIENCE, () -> {
            for (int i = 0; i < ROUNDS; i++) {
                read(format, mutated(sound, random), options, "round " + i);
            }
        });
    }

    @ParameterizedTest
    @MethodSource("formats")
    void randomBytesGiveRowsOrClearFindings(SourceFormat format, byte[] sound, Map<String, String> options) {
        Random random = new Random(20_264);
        Assertions.assertTimeoutPreemptively(PATIENCE, () -> {
            for (int i = 0; i < ROUNDS / 2; i++) {
                byte[] bytes = new byte[random.nextInt(3_000)];
                random.nextBytes(bytes);
                for (int k = 0; k < bytes.length; k += 1 + random.nextInt(5)) {
                    bytes[k] = sound[random.nextInt(sound.length)];
                }
                read(format, bytes, options, "round " + i);
            }
        });
    }

    private static void read(SourceFormat format, byte[] bytes, Map<String, String> options, String round) {
        try {
            ReadBack read = ReadBack.of(format, "t." + format.name(), bytes, options);
            read.rows().forEach(row -> assertThat(row.origin().line()).as(round).isPositive());
        } catch (CannotGoOn e) {
            assertThat(e.problems())
                    .as(round)
                    .allSatisfy(problem -> assertThat(problem.sentence()).isNotBlank());
        } catch (java.io.UncheckedIOException e) {
            throw new AssertionError(round, e);
        }
    }

    private static byte[] mutated(byte[] sound, Random random) {
        byte[] bytes = sound.clone();
        int changes = 1 + random.nextInt(6);
        for (int i = 0; i < changes && bytes.length > 4; i++) {
            int at = random.nextInt(bytes.length);
            switch (random.nextInt(4)) {
                case 0 -> bytes[at] = (byte) random.nextInt(256);
                case 1 -> bytes = Arrays.copyOf(bytes, at + 1);
                case 2 -> {
                    byte[] twice = Arrays.copyOf(bytes, bytes.length + bytes.length - at);
                    System.arraycopy(bytes, at, twice, bytes.length, bytes.length - at);
                    bytes = twice;
                }
                default -> bytes[at] = bytes[random.nextInt(bytes.length)];
            }
        }
        return bytes;
    }

    @Test
    void mutatedArchivesGiveFilesOrClearFindings() throws IOException {
        ByteArrayOutputStream gzip = new ByteArrayOutputStream();
        try (GZIPOutputStream out = new GZIPOutputStream(gzip)) {
            out.write("a;b\n1;2\n".repeat(50).getBytes(StandardCharsets.UTF_8));
        }
        unpack(new Gzip(), gzip.toByteArray());
        unpack(new Zip(), zip("a.csv", "a;b\n1;2\n".repeat(50)));
    }

    private void unpack(SourceContainer container, byte[] sound) {
        Random random = new Random(20_265);
        Path file = folder.resolve("packed");
        Assertions.assertTimeoutPreemptively(PATIENCE, () -> {
            for (int i = 0; i < ROUNDS; i++) {
                Files.write(file, mutated(sound, random));
                try {
                    List<SourceBytes> members = container
                            .members(SourceBytes.of("packed", file), folder)
                            .orElse(List.of());
                    for (SourceBytes member : members) {
                        try (InputStream in = member.open()) {
                            in.readAllBytes();
                        }
                    }
                } catch (CannotGoOn e) {
                    assertThat(e.problems()).extracting(Problem::sentence).doesNotContain("");
                } catch (IOException e) {
                    // a damaged stream: whoever reads the file says so with its place
                    assertThat(e).isNotNull();
                }
            }
        });
    }
}

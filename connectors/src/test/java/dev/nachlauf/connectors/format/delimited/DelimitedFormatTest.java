package dev.nachlauf.connectors.format.delimited;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.io.ByteArrayInputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DelimitedFormatTest {
    private static SourceReader open(byte[] bytes, Map<String, String> options) {
        return new DelimitedFormat().read("huts.csv", new ByteArrayInputStream(bytes), options);
    }

    private static SourceReader open(String text, Map<String, String> options) {
        return open(text.getBytes(StandardCharsets.UTF_8), options);
    }

    private static List<SourceRow> rows(SourceReader reader) {
        List<SourceRow> rows = new ArrayList<>();
        for (SourceRow row = reader.next(); row != null; row = reader.next()) {
            rows.add(row);
        }
        return rows;
    }

    private static ProblemCode failure(String text, Map<String, String> options) {
        try {
            rows(open(text, options));
        } catch (CannotGoOn e) {
            return e.problems().getFirst().code();
        }
        throw new AssertionError("it was read");
    }

    @ParameterizedTest
    @CsvSource({"';',;", "',',','", "'\t',tab", "'|',|"})
    void detectsTheDelimiter(String delimiter, String shown) {
        SourceReader reader = open("code" + delimiter + "name\nH-001" + delimiter + "Hut\n", Map.of());
        assertThat(reader.header()).containsExactly("code", "name");
        assertThat(reader.options()).containsEntry("delimiter", shown);
        assertThat(rows(reader).getFirst().cells()).containsExactly("H-001", "Hut");
    }

    @Test
    void readsQuotesLineBreaksAndEmptyCellsWithTheirLines() {
        SourceReader reader = open("code;name\r\nH-001;\"Hut \"\"One\"\";\nupper\"\r\n\r\nH-002;\r\n", Map.of());
        List<SourceRow> rows = rows(reader);
        assertThat(rows).hasSize(2);
        assertThat(rows.get(0).cells()).containsExactly("H-001", "Hut \"One\";\nupper");
        assertThat(rows.get(0).line()).isEqualTo(2);
        assertThat(rows.get(1).cells()).containsExactly("H-002", null);
        assertThat(rows.get(1).line()).isEqualTo(5);
        assertThat(rows.get(1).number()).isEqualTo(2);
    }

    @ParameterizedTest
    @CsvSource({"UTF-8,utf-8", "windows-1252,windows-1252", "UTF-16,utf-16be"})
    void detectsTheEncoding(String written, String shown) {
        SourceReader reader = open("code;name\nH-001;Föhrenstein\n".getBytes(Charset.forName(written)), Map.of());
        assertThat(reader.options()).containsEntry("encoding", shown);
        assertThat(rows(reader).getFirst().cells()).containsExactly("H-001", "Föhrenstein");
    }

    @Test
    void skipsAByteOrderMark() {
        assertThat(open("\uFEFFcode;name\nx;y\n", Map.of()).header()).containsExactly("code", "name");
        assertThat(open("\uFEFFcode;name\nx;y\n", Map.of("encoding", "utf-8")).header())
                .containsExactly("code", "name");
    }

    @Test
    void rowsInAWrongEncodingAreRejectedOneByOne() {
        SourceReader reader = open(
                "code;name\nH-001;Hut\nH-002;Föhren\n".getBytes(Charset.forName("windows-1252")),
                Map.of("encoding", "utf-8"));
        List<SourceRow> rows = rows(reader);
        assertThat(rows.get(0).problems()).isEmpty();
        assertThat(rows.get(1).problems()).extracting(Problem::code).containsExactly(ProblemCode.FILE_ENCODING);
    }

    @Test
    void takesTheHeaderFromALaterRowOrFromNone() {
        SourceReader later = open("Spring list 2026\n\ncode;name\nH-001;Hut\n", Map.of("header-row", "3"));
        assertThat(later.header()).containsExactly("code", "name");
        assertThat(rows(later)).hasSize(1);
        SourceReader none = open("H-001;Hut\nH-002;Hut\n", Map.of("header-row", "0"));
        assertThat(none.header()).containsExactly("field_1", "field_2");
        assertThat(rows(none)).hasSize(2);
    }

    @Test
    void raggedRowsKeepAllTheirCells() {
        List<SourceRow> rows = rows(open("code;name\nH-001\nH-002;a;b\n", Map.of()));
        assertThat(rows)
                .allSatisfy(row ->
                        assertThat(row.problems()).extracting(Problem::code).containsExactly(ProblemCode.ROW_RAGGED));
        assertThat(rows.get(1).cells()).containsExactly("H-002", "a", "b");
    }

    @Test
    void saysWhatIsWrongWithTheWholeFile() {
        assertThat(failure("", Map.of())).isEqualTo(ProblemCode.FILE_EMPTY);
        assertThat(failure("\n\n", Map.of())).isEqualTo(ProblemCode.FILE_EMPTY);
        assertThat(failure("a;b\n", Map.of("header-row", "9"))).isEqualTo(ProblemCode.FILE_HEADER);
        assertThat(failure("code;name;beds\nx;y;1\n", Map.of("delimiter", ","))).isEqualTo(ProblemCode.FILE_HEADER);
        assertThat(failure("code;;beds\n", Map.of())).isEqualTo(ProblemCode.FILE_HEADER);
        assertThat(failure("code;code\n", Map.of())).isEqualTo(ProblemCode.FILE_HEADER);
        assertThat(failure("code;name\n\"H-001;x\nH-002;y\n", Map.of())).isEqualTo(ProblemCode.FILE_MALFORMED);
        assertThat(failure("a;b\n", Map.of("delimiter", ";;"))).isEqualTo(ProblemCode.SETTING_MALFORMED);
        assertThat(failure("a;b\n", Map.of("encoding", "utf-9"))).isEqualTo(ProblemCode.SETTING_MALFORMED);
    }

    @Test
    void oneColumnIsAFileToo() {
        assertThat(open("code\nH-001\n", Map.of()).header()).containsExactly("code");
    }

    @Test
    void randomBytesGiveRowsOrAClearFailure() {
        Random random = new Random(20261);
        for (int i = 0; i < 300; i++) {
            byte[] bytes = new byte[random.nextInt(4_000)];
            random.nextBytes(bytes);
            for (int k = 0; k < bytes.length; k += 1 + random.nextInt(9)) {
                bytes[k] = (byte) ";,\"\n\r\tab".charAt(random.nextInt(8));
            }
            try (SourceReader reader = open(bytes, Map.of())) {
                rows(reader).forEach(row -> assertThat(row.line()).isPositive());
            } catch (CannotGoOn e) {
                assertThat(e.problems()).isNotEmpty();
            }
        }
    }

    @Test
    void fieldsHaveAGreatestSize() {
        assertThatThrownBy(() -> rows(open("a;b\n\"" + "x".repeat(5_000_000) + "\";1\n", Map.of())))
                .isInstanceOf(CannotGoOn.class);
        assertThat(rows(open("a;b\n\"" + "x".repeat(900_000) + "\";1\n", Map.of())))
                .hasSize(1);
    }
}

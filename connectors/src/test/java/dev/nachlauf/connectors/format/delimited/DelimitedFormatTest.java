package dev.nachlauf.connectors.format.delimited;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.connectors.format.ReadBack;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.system.SourceBytes;
import dev.nachlauf.core.system.SourceFormat;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class DelimitedFormatTest {
    private static final SourceFormat FORMAT = new DelimitedFormat();

    private static ReadBack open(byte[] bytes, Map<String, String> options) {
        return ReadBack.of(FORMAT, "huts.csv", bytes, options);
    }

    private static ReadBack open(String text, Map<String, String> options) {
        return ReadBack.of(FORMAT, text, options);
    }

    private static ProblemCode failure(String text, Map<String, String> options) {
        return ReadBack.failure(FORMAT, text, options);
    }

    @ParameterizedTest
    @CsvSource({"';',;", "',',','", "'\t',tab", "'|',|"})
    void detectsTheDelimiter(String delimiter, String shown) {
        ReadBack reader = open("code" + delimiter + "name\nH-001" + delimiter + "Hut\n", Map.of());
        assertThat(reader.names()).containsExactly("code", "name");
        assertThat(reader.option("delimiter")).isEqualTo(shown);
        assertThat(reader.rows().getFirst().cells()).containsExactly("H-001", "Hut");
    }

    @Test
    void readsQuotesLineBreaksAndEmptyCellsWithTheirLines() {
        ReadBack reader = open("code;name\r\nH-001;\"Hut \"\"One\"\";\nupper\"\r\n\r\nH-002;\r\n", Map.of());
        List<SourceRow> rows = reader.rows();
        assertThat(rows).hasSize(2);
        assertThat(rows.get(0).cells()).containsExactly("H-001", "Hut \"One\";\nupper");
        assertThat(rows.get(0).origin().line()).isEqualTo(2);
        assertThat(rows.get(1).cells()).containsExactly("H-002", null);
        assertThat(rows.get(1).origin().line()).isEqualTo(5);
        assertThat(rows.get(1).number()).isEqualTo(2);
    }

    @Test
    void linesOfNothingButDelimitersAreNoRowsUnlessTheJobSaysSo() {
        String text = "code;name;beds\nH-001;Hut;8\n;;\n ; ;\n;\nH-002;;\n;;\n";
        assertThat(open(text, Map.of()).rows())
                .extracting(row -> row.origin().line())
                .containsExactly(2L, 6L);
        ReadBack kept = open(text, Map.of("blank-lines", "keep"));
        assertThat(kept.rows()).hasSize(6);
        assertThat(kept.rows().get(3).problems()).as("one field too few").isNotEmpty();
        assertThat(open("code\nH-001\n \nH-002\n", Map.of()).rows())
                .as("of one column a blank is a value")
                .hasSize(3);
    }

    @ParameterizedTest
    @CsvSource({"UTF-8,utf-8", "windows-1252,windows-1252", "UTF-16,utf-16be"})
    void detectsTheEncoding(String written, String shown) {
        ReadBack reader = open("code;name\nH-001;Föhrenstein\n".getBytes(Charset.forName(written)), Map.of());
        assertThat(reader.option("encoding")).isEqualTo(shown);
        assertThat(reader.rows().getFirst().cells()).containsExactly("H-001", "Föhrenstein");
    }

    @Test
    void skipsAByteOrderMark() {
        assertThat(open("\uFEFFcode;name\nx;y\n", Map.of()).names()).containsExactly("code", "name");
        assertThat(open("\uFEFFcode;name\nx;y\n", Map.of("encoding", "utf-8")).names())
                .containsExactly("code", "name");
    }

    @Test
    void aReplacementCharacterThatTheFileHoldsIsText() {
        SourceRow row = open("code;name\nH-001;H\uFFFDtte\n".getBytes(StandardCharsets.UTF_8), Map.of())
                .rows()
                .getFirst();
        assertThat(row.problems()).isEmpty();
        assertThat(row.cells()).containsExactly("H-001", "H\uFFFDtte");
    }

    @Test
    void rowsInAWrongEncodingAreRejectedOneByOne() {
        ReadBack reader = open(
                "code;name\nH-001;Hut\nH-002;Föhren\n".getBytes(Charset.forName("windows-1252")),
                Map.of("encoding", "utf-8"));
        List<SourceRow> rows = reader.rows();
        assertThat(rows.get(0).problems()).isEmpty();
        assertThat(rows.get(1).problems()).extracting(Problem::code).containsExactly(ProblemCode.FILE_ENCODING);
    }

    @Test
    void takesTheHeaderFromALaterRowOrFromNone() {
        ReadBack later = open("Spring list 2026\n\ncode;name\nH-001;Hut\n", Map.of("header-row", "3"));
        assertThat(later.names()).containsExactly("code", "name");
        assertThat(later.rows()).hasSize(1);
        ReadBack none = open("H-001;Hut\nH-002;Hut\n", Map.of("header-row", "0"));
        assertThat(none.names()).containsExactly("field_1", "field_2");
        assertThat(none.rows()).hasSize(2);
    }

    @Test
    void raggedRowsKeepAllTheirCells() {
        List<SourceRow> rows = open("code;name\nH-001\nH-002;a;b\n", Map.of()).rows();
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
        assertThat(failure("code;name\n\"H-001;x\nH-002;y\n", Map.of())).isEqualTo(ProblemCode.FILE_MALFORMED);
        assertThat(failure("a;b\n", Map.of("delimiter", ""))).isEqualTo(ProblemCode.SETTING_MALFORMED);
        assertThat(failure("a;b\n", Map.of("encoding", "utf-9"))).isEqualTo(ProblemCode.SETTING_MALFORMED);
    }

    @Test
    void oneColumnIsAFileToo() {
        assertThat(open("code\nH-001\n", Map.of()).names()).containsExactly("code");
    }

    @Test
    void namesColumnsWithoutANameAndRepeatedOnes() {
        ReadBack reader = open("code;;beds;beds\nH-001;x;1;2\n", Map.of("header-row", "1"));
        assertThat(reader.names()).containsExactly("code", "field_2", "beds", "beds (2)");
        assertThat(reader.options()).anySatisfy(option -> {
            assertThat(option.option()).isEqualTo("names");
            assertThat(option.evidence()).contains("column 2 has no name").contains("column 4 repeats beds");
        });
        assertThat(reader.place(0, "beds (2)")).isEqualTo("huts.delimited, line 2, field 4");
    }

    @Test
    void findsTheHeaderBelowTitlesAndSaysWhereThereIsNone() {
        ReadBack titled = open("Spring list 2026;;\n;;\ncode;name;beds\nH-001;Hut;12\nH-002;Hut;8\n", Map.of());
        assertThat(titled.option("header-row")).isEqualTo("3");
        assertThat(titled.names()).containsExactly("code", "name", "beds");
        assertThat(titled.rows()).hasSize(2);
        ReadBack bare = open("1;12;2026-05-01\n2;8;2026-05-02\n3;9;2026-05-03\n", Map.of());
        assertThat(bare.option("header-row")).isEqualTo("0");
        assertThat(bare.rows()).hasSize(3);
    }

    @Test
    void leavesOutCommentsAndLeadingLines() {
        ReadBack reader = open(
                "made by \"hand\n# a remark\ncode;name\n# another\nH-001;Hut\n",
                Map.of("skip-lines", "1", "comment", "#"));
        assertThat(reader.names()).containsExactly("code", "name");
        assertThat(reader.rows()).hasSize(1);
        assertThat(reader.rows().getFirst().origin().line()).isEqualTo(5);
    }

    @Test
    void understandsAnEscapeCharacter() {
        ReadBack reader = open(
                "code,name\nH-001,\"The \\\"old\\\" hut\"\nH-002,a\\,b\n", Map.of("escape", "\\", "header-row", "1"));
        assertThat(reader.cells(0)).containsExactly("H-001", "The \"old\" hut");
        assertThat(reader.cells(1)).containsExactly("H-002", "a,b");
        assertThat(reader.rows().get(1).origin().line()).isEqualTo(3);
    }

    @Test
    void takesDelimitersOfSeveralCharactersAndNoQuoteAtAll() {
        ReadBack reader = open("code||name\nH-001||5\" pipe\n", Map.of("delimiter", "||", "quote", "none"));
        assertThat(reader.cells(0)).containsExactly("H-001", "5\" pipe");
    }

    @Test
    void padsShortRowsWhereTheJobSaysSo() {
        ReadBack reader = open("code;name;beds\nH-001\nH-002;a;1;;\nH-003;a;1;x\n", Map.of("ragged", "pad"));
        assertThat(reader.cells(0)).containsExactly("H-001", null, null);
        assertThat(reader.problems(0)).isEmpty();
        assertThat(reader.problems(1)).isEmpty();
        assertThat(reader.problems(2)).containsExactly(ProblemCode.ROW_RAGGED);
    }

    @Test
    void givesTheClosingLineApartFromTheRows() {
        ReadBack reader = open("code;beds\nH-001;12\nTOTAL;x\nH-002;8\nTOTAL;3;20\n", Map.of("trailer", "TOTAL"));
        assertThat(reader.rows()).hasSize(3);
        assertThat(reader.trailer().orElseThrow().cells()).containsExactly("TOTAL", "3", "20");
        assertThat(reader.trailer().get().place()).isEqualTo("huts.delimited, line 5");
    }

    @Test
    void readsUtf16WithoutAMarkAndOldOneByteEncodings() {
        String text = "code;name\nH-001;Föhrenstein\n";
        assertThat(open(text.getBytes(StandardCharsets.UTF_16LE), Map.of()).option("encoding"))
                .isEqualTo("utf-16le");
        ReadBack stated = open(
                "code;name\nH-001;Łąka\n".getBytes(Charset.forName("iso-8859-2")), Map.of("encoding", "iso-8859-2"));
        assertThat(stated.cells(0)).containsExactly("H-001", "Łąka");
    }

    @ParameterizedTest
    @ValueSource(strings = {"\r", "\n", "\r\n"})
    void knowsAllLineEnds(String end) {
        ReadBack reader = open("code;name" + end + "H-001;a" + end + "H-002;b", Map.of());
        assertThat(reader.rows()).hasSize(2);
        assertThat(reader.rows().get(1).origin().line()).isEqualTo(3);
    }

    @Test
    void fieldsHaveAGreatestSize() {
        assertThatThrownBy(() -> open("a;b\n\"" + "x".repeat(5_000_000) + "\";1\n", Map.of()))
                .isInstanceOf(CannotGoOn.class);
        assertThat(open("a;b\n\"" + "x".repeat(900_000) + "\";1\n", Map.of()).rows())
                .hasSize(1);
    }

    /** What nobody needs is not read, but rows, places and problems are the same. */
    @Test
    void fieldsThatNobodyNeedsAreLeftOut(@TempDir Path folder) throws IOException {
        byte[] text = "code;name;note\nH-1;Larch;\"two\nlines\"\n;;\nH-2;Stone;x;surplus\nH-3;St\u00e9in;y\nH-4;Rock\n"
                .getBytes(StandardCharsets.ISO_8859_1);
        FormatOptions options = FormatOptions.of(Map.of("encoding", "utf-8"));
        SourceBytes file = SourceBytes.of("huts.csv", Files.write(folder.resolve("huts.csv"), text));
        List<SourceRow> all = new ArrayList<>();
        List<SourceRow> needed = new ArrayList<>();
        try (SourceReader whole = FORMAT.read(file, options);
                SourceReader part = FORMAT.read(file, options)) {
            BitSet names = new BitSet();
            names.set(1);
            part.needOnly(names);
            for (SourceRow row = whole.next(); row != null; row = whole.next()) {
                all.add(row);
                needed.add(part.next());
            }
            assertThat(part.next()).isNull();
        }
        assertThat(all).hasSize(4);
        for (int i = 0; i < all.size(); i++) {
            assertThat(needed.get(i).origin()).isEqualTo(all.get(i).origin());
            assertThat(needed.get(i).problems()).isEqualTo(all.get(i).problems());
            assertThat(needed.get(i).cells()[0]).isIn(null, "");
            assertThat(needed.get(i).cells()[1]).isEqualTo(all.get(i).cells()[1]);
        }
        assertThat(all.stream().map(row -> row.problems().size())).containsExactly(0, 1, 1, 1);
    }
}

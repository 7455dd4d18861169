package dev.nachlauf.connectors.format.delimited;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.connectors.format.Noted;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DelimitedNotesTest {
    private static final List<String> HEADS = List.of("outcome", "message");

    private static byte[] copy(byte[] file, Map<String, String> options, Map<String, List<String>> notes)
            throws IOException {
        return Noted.copy(new DelimitedFormat(), "huts.csv", file, options, HEADS, notes);
    }

    private static String copy(String file, Map<String, String> options, Map<String, List<String>> notes)
            throws IOException {
        byte[] copy = copy(file.getBytes(StandardCharsets.UTF_8), options, notes);
        return new String(copy, StandardCharsets.UTF_8);
    }

    @Test
    void addsFieldsWhereRowsEndAndLeavesTheRestAsItIs() throws IOException {
        String file = "code;name\r\n\"H-1\";Larch\r\n\r\nH-2;\"upper\r\nhut\"\nH-3\rH-4;Oak";
        Map<String, List<String>> notes = Map.of(
                "2", List.of("inserted", ""),
                "4", List.of("rejected", "There is no \"hut\"; nor a lamp."),
                "6", List.of("skipped", "short"),
                "7", List.of("updated", "two\nlines"));
        assertThat(copy(file, Map.of(), notes)).isEqualTo("""
                code;name;outcome;message\r
                "H-1";Larch;inserted;\r
                \r
                H-2;"upper\r
                hut";rejected;"There is no ""hut""; nor a lamp."
                H-3;;skipped;short\rH-4;Oak;updated;"two
                lines\"""");
    }

    @Test
    void aRowThatNothingIsKnownOfStaysAsItIs() throws IOException {
        assertThat(copy("code;name\nH-1;Larch\nH-2;Fern\n", Map.of(), Map.of("3", List.of("inserted", ""))))
                .isEqualTo("code;name;outcome;message\nH-1;Larch\nH-2;Fern;inserted;\n");
    }

    @Test
    void aFileWithoutAHeadingGetsNone() throws IOException {
        String file = "a title\nH-1|8\nH-2|9\n";
        Map<String, String> options = Map.of("skip-lines", "1", "header-row", "0", "delimiter", "|", "quote", "none");
        assertThat(copy(file, options, Map.of("3", List.of("rejected", "one|two\nthree"))))
                .isEqualTo("a title\nH-1|8\nH-2|9|rejected|one two three\n");
    }

    @Test
    void whatStandsBesideIsNoFormula() throws IOException {
        assertThat(copy("code\n=1+1\n", Map.of("delimiter", ";"), Map.of("2", List.of("inserted", "=1+1"))))
                .isEqualTo("code;outcome;message\n=1+1;inserted;'=1+1\n");
    }

    @Test
    void anEscapeIsUsedWhereTheFileHasOne() throws IOException {
        String file = "code,name\nH-1,\"Larch \\\"big\\\"\"\n";
        assertThat(copy(file, Map.of("escape", "\\"), Map.of("2", List.of("rejected", "a \"b\" \\ c"))))
                .isEqualTo("code,name,outcome,message\nH-1,\"Larch \\\"big\\\"\",rejected,\"a \\\"b\\\" \\\\ c\"\n");
    }

    @Test
    void whatTheReaderCouldNotReadIsCopied() throws IOException {
        String rest = "H-2;\"" + "never ends ".repeat(400_000);
        assertThat(copy(
                        "code;name\nH-1;Larch\n" + rest,
                        Map.of("delimiter", ";"),
                        Map.of("2", List.of("inserted", ""))))
                .isEqualTo("code;name;outcome;message\nH-1;Larch;inserted;\n" + rest);
    }

    @ParameterizedTest
    @CsvSource({"windows-1252,''", "UTF-8,\uFEFF", "UTF-16LE,\uFEFF", "UTF-16BE,\uFEFF"})
    void theEncodingIsTheFilesOwn(String encoding, String mark) throws IOException {
        Charset charset = Charset.forName(encoding);
        String file = mark + "code;name\r\nH-1;Föhre\r\nH-2;Ähre\r\n";
        byte[] copy = copy(
                file.getBytes(charset),
                mark.isEmpty() ? Map.of("encoding", encoding) : Map.of(),
                Map.of("2", List.of("inserted", "größer"), "3", List.of("rejected", "")));
        assertThat(new String(copy, charset))
                .isEqualTo(mark + "code;name;outcome;message\r\nH-1;Föhre;inserted;größer\r\nH-2;Ähre;rejected;\r\n");
    }
}

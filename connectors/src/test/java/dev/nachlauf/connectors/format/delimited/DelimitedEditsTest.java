package dev.nachlauf.connectors.format.delimited;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.connectors.format.Edited;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.Map;
import org.junit.jupiter.api.Test;

class DelimitedEditsTest {
    private static String edited(Edited edits, String file, Map<String, String> options) throws IOException {
        return edited(edits, file, options, StandardCharsets.UTF_8);
    }

    private static String edited(Edited edits, String file, Map<String, String> options, Charset charset)
            throws IOException {
        return new String(edits.copy(new DelimitedFormat(), "huts.csv", file.getBytes(charset), options), charset);
    }

    @Test
    void whatDoesNotChangeStaysByteByByte() throws IOException {
        String file =
                "code;name; beds\r\n\"H-1\";\"Larch\";8\n\r\nH-2;  Fern  ;12\r\nH-3;\"two\nlines; here\";3\rH-4;Moss;4\n";
        assertThat(edited(new Edited(), file, Map.of())).isEqualTo(file);
        assertThat(edited(
                        new Edited().row("", 2, null, null, 9L).gone("", 5).row("", 7, null, "quoted \"so\"; and so"),
                        file,
                        Map.of()))
                .isEqualTo(
                        "code;name; beds\r\nH-1;Larch;9\n\r\nH-2;  Fern  ;12\r\nH-4;\"quoted \"\"so\"\"; and so\";4\n");
    }

    @Test
    void newRowsAreSpelledLikeTheOthers() throws IOException {
        Edited added = new Edited()
                .added("H-9", "line\nend", new BigDecimal("18.50"), LocalDate.of(2026, 5, 1))
                .added("H-10", null, null, null);
        assertThat(edited(added, "code|name|price|opens\r\nH-1|Larch|20|2026-04-01\r\n", Map.of()))
                .isEqualTo("code|name|price|opens\r\nH-1|Larch|20|2026-04-01\r\n"
                        + "H-9|\"line\nend\"|18.50|2026-05-01\r\nH-10|||\r\n");
    }

    @Test
    void aLastLineWithoutAnEndHasNoneThenEither() throws IOException {
        assertThat(edited(new Edited().added("H-2", 3L), "code,beds\nH-1,8", Map.of()))
                .isEqualTo("code,beds\nH-1,8\nH-2,3");
        assertThat(edited(new Edited().added("H-2"), "code\n", Map.of())).isEqualTo("code\nH-2\n");
        assertThat(edited(new Edited().gone("", 2), "code,beds\nH-1,8", Map.of()))
                .isEqualTo("code,beds\n");
    }

    @Test
    void encodingsKeepTheirMarksAndCharacters() throws IOException {
        Charset windows = Charset.forName("windows-1252");
        assertThat(edited(
                        new Edited().row("", 2, null, "Mühle").added("H-2", "Höhe"),
                        "code;name\nH-1;Föhre\n",
                        Map.of("encoding", "windows-1252"),
                        windows))
                .isEqualTo("code;name\nH-1;Mühle\nH-2;Höhe\n");
        String marked = "\uFEFFcode;name\r\nH-1;Föhre\r\n";
        byte[] utf16 = new Edited()
                .row("", 2, null, "Ähre")
                .added("H-2", "→")
                .copy(new DelimitedFormat(), "huts.csv", marked.getBytes(StandardCharsets.UTF_16LE), Map.of());
        assertThat(new String(utf16, StandardCharsets.UTF_16LE)).isEqualTo("\uFEFFcode;name\r\nH-1;Ähre\r\nH-2;→\r\n");
    }

    @Test
    void aTextWithoutHeadAndWithAnEscape() throws IOException {
        Map<String, String> options = Map.of("header-row", "0", "escape", "\\", "comment", "#");
        assertThat(edited(
                        new Edited().row("", 3, null, "say \"a\"").added("b", "x\\y;"),
                        "# by hand\na;1\na2;2\n",
                        options))
                .isEqualTo("# by hand\na;1\na2;\"say \\\"a\\\"\"\nb;\"x\\\\y;\"\n");
    }

    @Test
    void whatCannotBeSpelledIsRefused() {
        Map<String, String> bare = Map.of("quote", "none");
        assertThatThrownBy(() -> edited(new Edited().added("H;2", "x"), "code;name\nH-1;a\n", bare))
                .hasMessageContaining("A value holds a delimiter or a line break");
        assertThatThrownBy(() ->
                        edited(new Edited().added("H-2", 3L), "code;beds\nH-1;8\nSUM;8\n", Map.of("trailer", "SUM")))
                .hasMessageContaining("huts.csv ends with a line of figures");
    }
}

package dev.nachlauf.connectors.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.connectors.format.fixed.FixedFormat;
import dev.nachlauf.connectors.format.json.JsonLinesFormat;
import dev.nachlauf.core.system.EditsRows;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Texts of which each row is one line, with edits. */
class EditedLinesTest {
    private static String edited(EditsRows format, Edited edits, String file, Map<String, String> options)
            throws IOException {
        return edited(format, edits, file, options, StandardCharsets.UTF_8);
    }

    private static String edited(
            EditsRows format, Edited edits, String file, Map<String, String> options, Charset charset)
            throws IOException {
        return new String(edits.copy(format, "huts", file.getBytes(charset), options), charset);
    }

    @Test
    void fixedColumnsKeepTheirPlacesAndWhatStandsBetween() throws IOException {
        Map<String, String> columns =
                Map.of("columns", "code: 1-4, name: 6-12, beds: 14-16", "encoding", "windows-1252", "skip-lines", "1");
        String file = "LIST 2026\r\nH-1  Föhre  *  8  kept\r\n\r\nH-2  Moss\r\nH-3  Fern   * 12";
        assertThat(edited(
                        new FixedFormat(),
                        new Edited()
                                .row("", 2, null, "Mühle", 110L)
                                .row("", 4, null, null, 9L)
                                .gone("", 5)
                                .added("H-44", "Birch", new BigDecimal("7"))
                                .added("H-5", null, null),
                        file,
                        columns,
                        Charset.forName("windows-1252")))
                .isEqualTo("LIST 2026\r\nH-1  Mühle  *110  kept\r\n\r\nH-2  Moss      9\r\n"
                        + "H-44 Birch     7\r\nH-5             \r\n");
        assertThat(edited(new FixedFormat(), new Edited(), file, columns)).isEqualTo(file);
        assertThatThrownBy(() -> edited(
                        new FixedFormat(),
                        new Edited(),
                        "H-1\nEND 1",
                        Map.of("columns", "code: 1-4", "trailer", "END")))
                .hasMessageContaining("huts ends with a line of figures");
    }

    @Test
    void membersOfObjectsChangeAndAllOthersStayExact() throws IOException {
        String file = "{\"code\": \"H-1\", \"price\": 18.500, \"at\": {\"town\": \"Ashgate\"}, \"tags\": [1, \"a\"]}\n"
                + "{\"code\":\"H-2\",\"beds\":9}\n\n{ \"beds\" : 3, \"code\" : \"H-3\" }\n";
        // the fields of the file in their order: code, price, at.town, tags, beds
        assertThat(edited(
                        new JsonLinesFormat(),
                        new Edited()
                                .row("", 1, null, null, "Fernhead", null, 12L)
                                .gone("", 2)
                                .row("", 4, null, null, "Mosswick", null, 4L)
                                .added("H-\"4\"", new BigDecimal("0.10"), "Birchley", null, true)
                                .added("H-5", LocalDate.of(2026, 5, 1)),
                        file,
                        Map.of()))
                .isEqualTo(
                        "{\"code\": \"H-1\", \"price\": 18.500, \"at\": {\"town\": \"Fernhead\"}, \"tags\": [1, \"a\"],"
                                + "\"beds\": 12}\n"
                                + "\n{ \"beds\" : 4, \"code\" : \"H-3\", \"at\" : {\"town\":\"Mosswick\"} }\n"
                                + "{\"code\":\"H-\\\"4\\\"\",\"price\":0.10,\"at\":{\"town\":\"Birchley\"},\"beds\":true}\n"
                                + "{\"code\":\"H-5\",\"price\":\"2026-05-01\"}\n");
        assertThatThrownBy(() ->
                        edited(new JsonLinesFormat(), new Edited().row("", 1, null, null, null, "[2]"), file, Map.of()))
                .hasMessageContaining("tags in huts holds more than one value.");
        assertThatThrownBy(() -> edited(new JsonLinesFormat(), new Edited(), file, Map.of("record", "at")))
                .hasMessageContaining("The records of huts lie inside of its lines");
    }
}

package dev.nachlauf.connectors.format.json;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.connectors.format.Edited;
import dev.nachlauf.core.record.SourceField;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** JSON documents with edits. */
class JsonEditsTest {
    private static final JsonFormat FORMAT = new JsonFormat();

    private static String edited(Edited edits, String file, Map<String, String> options) throws IOException {
        return edited(edits, file, options, StandardCharsets.UTF_8);
    }

    private static String edited(Edited edits, String file, Map<String, String> options, Charset charset)
            throws IOException {
        return new String(edits.copy(FORMAT, "huts", file.getBytes(charset), options), charset);
    }

    private static String edited(Edited edits, String file) throws IOException {
        return edited(edits, file, Map.of());
    }

    @Test
    void recordsChangeWhereTheyStandAndNewOnesFollowTheLast() throws IOException {
        String file = """
                {
                  "issued": "2026-05-01",
                  "huts": [
                    { "code": "H-1", "beds": 8.0, "at": { "town": "Ashgate" } },
                    { "code": "H-2", "beds": 9 },
                    { "code": "H-3", "beds": 10, "at": null }
                  ],
                  "count" : 3
                }
                """;
        // the fields in their order: root.issued, code, beds, at.town
        assertThat(edited(new Edited(), file)).isEqualTo(file);
        assertThat(edited(
                        new Edited()
                                .record(4, "/huts/0", null, null, 12L)
                                .gone("", 5, "/huts/1")
                                .record(6, "/huts/2", null, null, null, "Fern\"head")
                                .added(null, "H-4", new BigDecimal("1.50"), "Moss")
                                .added(null, "H-5", null, null),
                        file))
                .isEqualTo("""
                        {
                          "issued": "2026-05-01",
                          "huts": [
                            { "code": "H-1", "beds": 12, "at": { "town": "Ashgate" } },
                            { "code": "H-3", "beds": 10, "at": {"town":"Fern\\"head"} },
                            {"code":"H-4","beds":1.50,"at":{"town":"Moss"}},
                            {"code":"H-5"}
                          ],
                          "count" : 3
                        }
                        """);
    }

    @Test
    void whateverIsTakenOutTheCommasAreRight() throws IOException {
        String file = "[{\"c\":1}, {\"c\":2}, null, {\"c\":3}]";
        for (int which = 0; which < 16; which++) {
            Edited edits = new Edited();
            StringBuilder left = new StringBuilder();
            for (int record = 0; record < 4; record++) {
                boolean gone = (which & 1 << record) != 0 && record != 2;
                if (gone) {
                    edits.gone("", 1, "/" + record);
                } else {
                    left.append(record == 2 ? "null" : "{\"c\":" + (record < 2 ? record + 1 : 3) + "}")
                            .append(',');
                }
            }
            String added = (which & 4) == 0 ? "" : "{\"c\":9},{\"c\":10},";
            if (!added.isEmpty()) {
                edits.added(9L).added(10L);
            }
            String expected = "[" + (left + added).replaceFirst(",$", "") + "]";
            assertThat(edited(edits, file).replace(" ", "")).isEqualTo(expected);
        }
        String all = "[ {\"c\":1},\n  {\"c\":2}\n]\n";
        Edited none = new Edited().gone("", 1, "/0").gone("", 2, "/1");
        assertThat(edited(none, all)).isEqualTo("[ ]\n");
        assertThat(edited(none.added(3L).added(4L), all)).isEqualTo("[ {\"c\":3}, {\"c\":4}]\n");
    }

    @Test
    void membersThatARecordLacksAreAddedAsItsOthersAreSpelled() throws IOException {
        String file = "[{\"a\" : 1, \"b/c\": {\"d\": \"x\"}},\n {},\n {\n  \"a\": 2\n }]";
        assertThat(edited(new Edited().record(2, "/1", 7L, "y").record(3, "/2", null, "z"), file))
                .isEqualTo("[{\"a\" : 1, \"b/c\": {\"d\": \"x\"}},\n {\"a\":7,\"b/c\":{\"d\":\"y\"}},\n"
                        + " {\n  \"a\": 2,\n  \"b/c\": {\"d\":\"z\"}\n }]");
        assertThatThrownBy(() -> edited(
                        new Edited().record(2, "/1", null, "y"), "[{\"a\":1,\"b\":{\"c\":2}},\n{\"a\":1,\"b\":3}]"))
                .hasMessageContaining("b in huts is no object, so nothing can be put into it.");
    }

    @Test
    void everyEncodingAndMarkStays() throws IOException {
        String file = "\uFEFF[{\"a\":\"Föhre\"}]";
        Edited edits = new Edited().record(1, "/0", "Mühle 🏔").added("é");
        String expected = "\uFEFF[{\"a\":\"Mühle 🏔\"},{\"a\":\"é\"}]";
        assertThat(edited(edits, file)).isEqualTo(expected);
        assertThat(edited(edits, file, Map.of(), StandardCharsets.UTF_16LE)).isEqualTo(expected);
        Charset old = Charset.forName("windows-1252");
        assertThat(edited(
                        new Edited().record(1, "/0", "Mühle 🏔"),
                        "[{\"a\":\"Föhre\"}]",
                        Map.of("encoding", "windows-1252"),
                        old))
                .isEqualTo("[{\"a\":\"Mühle \\ud83c\\udfd4\"}]");
        byte[] broken = "[{\"a\":\"F\u00f6hre\"}]".getBytes(StandardCharsets.ISO_8859_1);
        assertThatThrownBy(() -> new Edited().copy(FORMAT, "huts", broken, Map.of("encoding", "utf-8")))
                .hasMessageContaining("huts holds bytes that are not UTF-8, so it can't be given on as it is.");
    }

    @Test
    void aNewRecordNeedsOneListToGoInto() throws IOException {
        Edited added = new Edited().added("H-9");
        Map<String, String> nested = Map.of("record", "regions.huts");
        String one = "{\"regions\":[{\"huts\":[{\"code\":\"H-1\"}]}]}";
        assertThat(edited(added, one, nested))
                .isEqualTo("{\"regions\":[{\"huts\":[{\"code\":\"H-1\"},{\"code\":\"H-9\"}]}]}");
        for (String several : new String[] {
            "{\"regions\":[{\"huts\":[{\"code\":\"H-1\"}]},{\"huts\":[]}]}",
            "{\"regions\":[{\"huts\":[{\"code\":\"H-1\"}]},{}]}",
            "{\"regions\":{\"huts\":{\"code\":\"H-1\"}}}",
            "{\"regions\":{\"huts\":[[{\"code\":\"H-1\"}]]}}"
        }) {
            assertThatThrownBy(() -> edited(new Edited().added("H-9"), several, nested))
                    .hasMessageContaining("The records of huts lie in no list or in several");
            assertThat(edited(new Edited(), several, nested)).isEqualTo(several);
        }
        assertThatThrownBy(() -> edited(new Edited().gone("", 1, ""), "{\"code\":\"H-1\"}", Map.of()))
                .hasMessageContaining("huts holds one record, which can't be taken out of it.");
    }

    @Test
    void whatBelongsToTheRecordsAroundStays() {
        assertThat(FORMAT.whyFixed(new SourceField("code", "/code"))).isEmpty();
        assertThat(FORMAT.whyFixed(new SourceField("regions.name", "../../name")))
                .hasValue("it belongs to what stands around the records");
        assertThat(FORMAT.whyFixed(new SourceField("value", ""))).hasValue("the records are plain values, not objects");
    }
}

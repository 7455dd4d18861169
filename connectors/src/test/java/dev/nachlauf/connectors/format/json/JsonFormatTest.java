package dev.nachlauf.connectors.format.json;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.connectors.format.ReadBack;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.SourceFormat;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;

class JsonFormatTest {
    private static final SourceFormat JSON = new JsonFormat();
    private static final SourceFormat LINES = new JsonLinesFormat();
    private static final String REGIONS = """
            {"year": 2026, "regions": [
              {"code": "N", "trails": [{"no": 1, "name": "Ridge", "end": {"lat": 47.10}}, {"no": 2, "name": null}]},
              {"code": "S", "trails": []},
              {"code": "W", "trails": [{"no": 3, "name": "Lake", "tags": ["wet", "steep"]}]}
            ]}
            """;

    @Test
    void readsAListOfObjectsWithExactValues() {
        ReadBack read = ReadBack.of(
                JSON,
                "[{\"code\":\"H-1\",\"beds\":12,\"price\":0.10,\"open\":true},{\"code\":\"\",\"beds\":null}]",
                Map.of());
        assertThat(read.names()).containsExactly("code", "beds", "price", "open");
        assertThat(read.cells(0)).containsExactly("H-1", 12L, new BigDecimal("0.10"), true);
        assertThat(read.cells(1)).containsExactly(null, null, null, null);
        assertThat(read.place(0, "beds")).isEqualTo("huts.json, line 1, /0/beds");
    }

    @Test
    void carriesTheFieldsOfParentsDown() {
        ReadBack read = ReadBack.of(JSON, REGIONS, Map.of("record", "regions.trails"));
        assertThat(read.names()).containsExactly("root.year", "regions.code", "no", "name", "end.lat", "tags");
        assertThat(read.cells(0)).containsExactly(2026L, "N", 1L, "Ridge", new BigDecimal("47.10"), null);
        assertThat(read.cells(2)).containsExactly(2026L, "W", 3L, "Lake", null, "[\"wet\",\"steep\"]");
        assertThat(read.rows().get(2).origin().path()).isEqualTo("/regions/2/trails/0");
        assertThat(read.place(2, "regions.code")).isEqualTo("huts.json, line 4, /regions/2/code");
        assertThat(read.place(0, "end.lat")).isEqualTo("huts.json, line 2, /regions/0/trails/0/end/lat");
    }

    @Test
    void findsTheOutermostListByItselfAndNamesTheOthers() {
        ReadBack read = ReadBack.of(JSON, REGIONS, Map.of());
        assertThat(read.option("record")).isEqualTo("regions");
        assertThat(read.rows()).hasSize(3);
        assertThat(read.options().getFirst().evidence()).contains("regions.trails");
    }

    @Test
    void aBrokenLineCostsOneRow() {
        ReadBack read = ReadBack.of(LINES, "{\"a\":1}\n{\"a\":\n{\"a\":3}\n{\"a\":4} x\n", Map.of());
        assertThat(read.rows()).hasSize(4);
        assertThat(read.problems(1)).containsExactly(ProblemCode.FILE_MALFORMED);
        assertThat(read.rows().get(1).cells()).containsExactly("{\"a\":");
        assertThat(read.rows().get(1).origin().line()).isEqualTo(2);
        assertThat(read.cells(2)).containsExactly(3L);
        assertThat(read.problems(3)).containsExactly(ProblemCode.FILE_MALFORMED);
    }

    @Test
    void linesOfAnOrderAreRowsWithTheOrdersFields() {
        ReadBack read = ReadBack.of(
                LINES,
                "{\"order\":7,\"lines\":[{\"article\":\"gas\"},{\"article\":\"oil\"}]}\n{\"order\":8,\"lines\":[]}\n",
                Map.of("record", "lines"));
        assertThat(read.names()).containsExactly("root.order", "article");
        assertThat(read.cells(1)).containsExactly(7L, "oil");
        assertThat(read.rows()).hasSize(2);
        assertThat(read.place(1, "root.order")).isEqualTo("huts.json-lines, line 1, /order");
    }

    @Test
    void aFieldThatTurnsUpLateIsARejectOrLeftOut() {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < 1_200; i++) {
            text.append("{\"a\":")
                    .append(i)
                    .append(i == 1_100 ? ",\"b\":1" : "")
                    .append("}\n");
        }
        assertThat(ReadBack.of(LINES, text.toString(), Map.of()).problems(1_100))
                .containsExactly(ProblemCode.ROW_RAGGED);
        ReadBack left = ReadBack.of(LINES, text.toString(), Map.of("other-fields", "leave-out"));
        assertThat(left.problems(1_100)).isEmpty();
        assertThat(left.cells(1_100)).containsExactly(1_100L);
    }

    @Test
    void aNameThatStandsTwiceIsNoSilentLoss() {
        assertThat(ReadBack.of(LINES, "{\"a\":1,\"a\":2}\n{\"a\":1}\n", Map.of())
                        .problems(0))
                .containsExactly(ProblemCode.ROW_RAGGED);
    }

    @Test
    void boundsDepthTextAndNumbers() {
        String deep = "[".repeat(201) + "]".repeat(201);
        assertThat(ReadBack.failure(JSON, deep, Map.of())).isEqualTo(ProblemCode.FILE_MALFORMED);
        String allowed = "{\"a\":" + "[".repeat(198) + "]".repeat(198) + "}";
        assertThat(ReadBack.of(JSON, allowed, Map.of()).rows()).hasSize(1);
        assertThat(ReadBack.of(LINES, "{\"a\":1e999999999}\n{\"a\":2}\n", Map.of())
                        .cells(0))
                .containsExactly("1e999999999");
        assertThat(ReadBack.of(LINES, "{\"a\":" + "9".repeat(1_001) + "}\n{\"a\":2}\n", Map.of())
                        .problems(0))
                .containsExactly(ProblemCode.FILE_MALFORMED);
    }

    @Test
    void saysHowFarItCameWhereADocumentBreaks() {
        assertThat(ReadBack.failure(JSON, "[{\"a\":1},{\"a\":", Map.of())).isEqualTo(ProblemCode.FILE_MALFORMED);
        assertThat(ReadBack.failure(JSON, "{\"a\":1} x", Map.of())).isEqualTo(ProblemCode.FILE_MALFORMED);
        assertThat(ReadBack.failure(JSON, "", Map.of())).isEqualTo(ProblemCode.FILE_EMPTY);
        assertThat(ReadBack.failure(JSON, "{\"a\":[]}", Map.of("record", "b"))).isEqualTo(ProblemCode.FILE_EMPTY);
    }

    @Test
    void isRecognisedByItsFirstMark() {
        byte[] list = "  [1]".getBytes(StandardCharsets.UTF_8);
        byte[] lines = "{\"a\":1}\n{\"a\":2}\n".getBytes(StandardCharsets.UTF_8);
        assertThat(JSON.recognise("x", list)).isPresent();
        assertThat(LINES.recognise("x", list)).isEmpty();
        assertThat(JSON.recognise("x", lines)).isEmpty();
        assertThat(LINES.recognise("x", lines)).isPresent();
        assertThat(JSON.recognise("x", "a;b".getBytes(StandardCharsets.UTF_8))).isEmpty();
    }
}

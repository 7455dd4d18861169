package dev.nachlauf.connectors.format.fixed;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.connectors.format.ReadBack;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.Map;
import org.junit.jupiter.api.Test;

class FixedFormatTest {
    private static final FixedFormat FORMAT = new FixedFormat();
    private static final String COLUMNS = "code: 1-5, name: 6-20, beds: 21-23";

    private static ReadBack read(String text, Map<String, String> options) {
        return ReadBack.of(FORMAT, text, options);
    }

    @Test
    void cutsLinesAtTheStatedPositions() {
        ReadBack read = read("H-001Föhrenstein     12\nH-002Last            8\n\nH-003\n", Map.of("columns", COLUMNS));
        assertThat(read.names()).containsExactly("code", "name", "beds");
        assertThat(read.cells(0)).containsExactly("H-001", "Föhrenstein", "12");
        assertThat(read.cells(1)).containsExactly("H-002", "Last", "8");
        assertThat(read.cells(2)).containsExactly("H-003", null, null);
        assertThat(read.rows().get(2).origin().line()).isEqualTo(4);
        assertThat(read.place(0, "name")).isEqualTo("huts.fixed, line 1, positions 6 to 20");
    }

    @Test
    void textBehindTheLastColumnIsAProblemAndNoLoss() {
        ReadBack read = read("H-001Hut             12x\n", Map.of("columns", COLUMNS));
        assertThat(read.problems(0)).containsExactly(ProblemCode.ROW_RAGGED);
    }

    @Test
    void skipsLeadingLinesAndTakesTheClosingLineApart() {
        ReadBack read = read(
                "HEAD 2026\nH-001Hut             12\nEND   1  12\n",
                Map.of("columns", COLUMNS, "skip-lines", "1", "trailer", "END"));
        assertThat(read.rows()).hasSize(1);
        assertThat(read.trailer().orElseThrow().cells()).containsExactly("END", "1", "12");
    }

    @Test
    void saysWhatIsWrongWithTheColumns() {
        for (String columns : new String[] {"", "code", "code: 5-1", "a: 1-5, b: 5-9", "a: 1-2, a: 3-4"}) {
            assertThat(ReadBack.failure(FORMAT, "x\n", Map.of("columns", columns)))
                    .as(columns)
                    .isEqualTo(ProblemCode.SETTING_MALFORMED);
        }
        assertThat(ReadBack.failure(FORMAT, "x\n", Map.of())).isEqualTo(ProblemCode.SETTING_MALFORMED);
    }

    @Test
    void aLineThatNeverEndsIsRefused() {
        assertThat(ReadBack.failure(FORMAT, "x".repeat(4_000_001), Map.of("columns", "a: 1-2")))
                .isEqualTo(ProblemCode.FILE_MALFORMED);
        assertThat(read("x".repeat(4_000_000), Map.of("columns", "a: 1-2")).rows())
                .hasSize(1);
    }
}

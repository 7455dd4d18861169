package dev.nachlauf.cli;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.api.ControlTotalsView;
import dev.nachlauf.api.ControlTotalsView.Records;
import dev.nachlauf.api.ControlTotalsView.Sum;
import java.util.List;
import org.junit.jupiter.api.Test;

class TotalsTextTest {
    private static final Sum EQUAL = new Sum("nights", "1240", "0", "40", "1200", "0", 0, "1240", "1200", false);

    @Test
    void aFigureAddsUpAndIsCompared() {
        assertThat(TotalsText.lines(new ControlTotalsView(List.of(EQUAL), List.of()), false))
                .containsExactly(
                        "sum of nights 1,240 = 1,200 written + 40 rejected; expected 1,240; in the target 1,200");
    }

    @Test
    void whatDiffersAndWhatNobodyCouldReadIsTold() {
        Sum worth = new Sum("worth", "-0.50", "0", "0.00", "-0.50", "0", 1, "2", null, true);
        Records records = new Records("register stay", 1_000, 12, 2, 1_011, true);
        assertThat(TotalsText.lines(new ControlTotalsView(List.of(worth), List.of(records)), true))
                .containsExactly(
                        "sum of worth -0.50 = -0.50 to write; expected 2; unreadable in 1 row  DIFFERS",
                        "records of register stay: 1,000 before + 12 inserted - 2 deleted; 1,011 after  DIFFERS");
    }

    @Test
    void aRunWithoutFiguresHasNoLine() {
        assertThat(TotalsText.lines(null, false)).isEmpty();
    }
}

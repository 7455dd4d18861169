package dev.nachlauf.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SpreadsheetTextTest {
    @ParameterizedTest
    @ValueSource(strings = {"=1+1", "@SUM(A1)", "+cmd|' /C calc'!A0", "-2+3+cmd", "\t=1", "=\n1"})
    void whatASpreadsheetWouldTakeForAFormulaIsText(String cell) {
        assertThat(SpreadsheetText.guarded(cell)).isEqualTo("'" + cell);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "-5", "+43 664/1008 391", "-12,50", "H-008", "a=b", "- "})
    void numbersAndTelephoneNumbersStayAsTheyAre(String cell) {
        assertThat(SpreadsheetText.guarded(cell)).isEqualTo(cell);
    }
}

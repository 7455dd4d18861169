package dev.nachlauf.cli;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PlainTextTest {
    @Test
    void noTextMakesATerminalDoAnything() {
        assertThat(PlainText.forTerminal("\u001B]0;owned\u0007 hut")).isEqualTo("\u241B]0;owned\u2407 hut");
        assertThat(PlainText.forTerminal("a\rb\u007Fc\u009Bd")).isEqualTo("a\u240Db\u2421c\uFFFDd");
        assertThat(PlainText.forTerminal("left \u202Ethgir")).isEqualTo("left \uFFFDthgir");
    }

    @Test
    void ordinaryTextStaysAsItIs() {
        String text = "Föhrenstein 𝄞\tzwei\nZeilen";
        assertThat(PlainText.forTerminal(text)).isSameAs(text);
    }

    @ParameterizedTest
    @ValueSource(strings = {"=1+1", "@SUM(A1)", "+cmd|' /C calc'!A0", "-2+3+cmd", "\t=1", "=\n1"})
    void whatASpreadsheetWouldTakeForAFormulaIsText(String cell) {
        assertThat(PlainText.forSpreadsheet(cell)).isEqualTo("'" + cell);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "-5", "+43 664/1008 391", "-12,50", "H-008", "a=b", "- "})
    void numbersAndTelephoneNumbersStayAsTheyAre(String cell) {
        assertThat(PlainText.forSpreadsheet(cell)).isEqualTo(cell);
    }
}

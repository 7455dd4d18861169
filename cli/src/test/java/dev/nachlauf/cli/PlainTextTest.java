package dev.nachlauf.cli;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

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
}

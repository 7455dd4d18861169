package dev.nachlauf.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class SourceTextTest {
    private final SourceText text = new SourceText("job.yaml", "one\ntwo 𝄞 end\r\nthree");

    @Test
    void countsLinesAndCodePointsFromOne() {
        assertThat(text.position(0)).isEqualTo(new Position(1, 1));
        assertThat(text.position(4)).isEqualTo(new Position(2, 1));
        // behind the note, which takes two UTF-16 units but is one character
        assertThat(text.position(10)).isEqualTo(new Position(2, 6));
        assertThat(text.position(1000)).isEqualTo(new Position(3, 6));
    }

    @Test
    void givesTheLineWithoutItsEnd() {
        assertThat(text.lineAt(5)).isEqualTo("two 𝄞 end");
        assertThat(text.lineAt(1000)).isEqualTo("three");
    }
}

package dev.nachlauf.core.record;

import static org.assertj.core.api.Assertions.assertThat;

import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Rows of which the cells stay bytes until somebody looks at them. */
class RowTextTest {
    private static final @Nullable String[] CELLS = {"H-017", null, "Hütte \uD83C\uDFD4", null};

    private final RowText row = RowTexts.of(CELLS);

    private static SourceRow source(RowText text) {
        return new SourceRow(7, Origin.line("huts.csv", 8), text);
    }

    @Test
    void cellsBecomeTextWhenTheyAreLookedAt() {
        assertThat(row.width()).isEqualTo(4);
        assertThat(row.text(0)).isEqualTo("H-017");
        assertThat(row.text(1)).isNull();
        assertThat(source(row).cell(2)).isEqualTo("Hütte \uD83C\uDFD4");
        assertThat(source(row).cells()).containsExactly((Object[]) CELLS);
        assertThat(source(row).numbered(9).cells()).containsExactly((Object[]) CELLS);
    }

    @Test
    void aRowKeepsTheTextThatItGave() {
        SourceRow source = source(row);
        Object given = source.cell(0);
        assertThat(source.cell(0)).isSameAs(given);
        assertThat(source.holds(given)).isTrue();
        assertThat(source.holds(new String("H-017"))).isFalse();
    }

    @Test
    void aCellKnowsItsBytes() {
        TextCell hut = row.cell(2);
        assertThat(hut).hasToString("Hütte \uD83C\uDFD4");
        assertThat(hut.bytes()).isEqualTo(6 + 1 + 4);
        assertThat(hut.hasNul()).isFalse();
        assertThat(RowTexts.of("a", "b\0c").cell(1).hasNul()).isTrue();
        assertThat(RowTexts.of("a\0", "bc").cell(1).hasNul()).isFalse();
        assertThat(row.cell(1)).isNull();
    }

    @Test
    void everyCodecTakesWhatIsPassedOn() {
        for (CellCodec codec : new CellCodec[] {CellCodec.TEXT, CellCodec.ANY}) {
            ByteSink out = new ByteSink(16);
            codec.write(row.cell(2), out);
            assertThat(codec.read(out.toArray(), 0)).isEqualTo("Hütte \uD83C\uDFD4");
        }
    }

    @Test
    void aLongRowIsMeasuredByItsCharacters() {
        assertThat(source(RowTexts.of("ä".repeat(300_000), "b")).characters()).isEqualTo(300_000 + 1 + 2);
        assertThat(source(RowTexts.of("abc", null)).characters()).isEqualTo(3 + 2);
    }
}

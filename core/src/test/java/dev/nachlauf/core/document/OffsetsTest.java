package dev.nachlauf.core.document;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class OffsetsTest {
    @Test
    void codePointsAreFoundInTheText() {
        String text = "a𝄞b𝄞";
        Offsets offsets = new Offsets(text);
        for (int point = 0; point <= text.codePointCount(0, text.length()); point++) {
            assertThat(offsets.of(point)).isEqualTo(text.offsetByCodePoints(0, point));
        }
        assertThat(offsets.of(9)).isEqualTo(text.length());
    }

    @Test
    void anOrdinaryTextCountsAlike() {
        assertThat(new Offsets("höhe").of(2)).isEqualTo(2);
        assertThat(new Offsets("höhe").of(9)).isEqualTo(4);
        assertThat(new Offsets("").of(0)).isZero();
    }
}

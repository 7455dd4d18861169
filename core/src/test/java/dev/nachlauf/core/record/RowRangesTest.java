package dev.nachlauf.core.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.CannotGoOn;
import java.util.BitSet;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class RowRangesTest {
    @Test
    void areReadAndTold() {
        RowRanges rows = RowRanges.of("15, 1-10,11");
        assertThat(rows).hasToString("1-11,15");
        assertThat(rows.count()).isEqualTo(12);
        assertThat(rows.last()).isEqualTo(15);
        assertThat(rows.test(11)).isTrue();
        assertThat(rows.test(12)).isFalse();
        assertThat(rows.test(16)).isFalse();
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "0", "5-3", "1-", "a", "1,,2", "-4", "1;2", "9999999999999999999"})
    void areRefusedWithTheirPart(String text) {
        assertThatThrownBy(() -> RowRanges.of(text))
                .isInstanceOf(CannotGoOn.class)
                .hasMessageContaining("request-malformed");
    }

    @Test
    void behaveAsASetOfNumbers() {
        Random random = new Random(20_261_129);
        for (int round = 0; round < 300; round++) {
            RowRanges rows = new RowRanges();
            BitSet plain = new BitSet();
            for (int i = 0; i < 40; i++) {
                int first = 1 + random.nextInt(60);
                int last = first + random.nextInt(12);
                if (random.nextInt(3) > 0) {
                    rows.add(first, last);
                    plain.set(first, last + 1);
                } else {
                    rows.remove(RowRanges.of(first + "-" + last));
                    plain.clear(first, last + 1);
                }
                for (int row = 0; row < 80; row++) {
                    assertThat(rows.test(row))
                            .as("round %s, row %s", round, row)
                            .isEqualTo(plain.get(row));
                }
                assertThat(rows.count()).isEqualTo(plain.cardinality());
            }
        }
    }
}

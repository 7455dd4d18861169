package dev.nachlauf.core.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

class RowCodecTest {
    @Test
    void givesBackWhatWasPutIn() {
        Object[] row = {
            null,
            "Föhrenstein 𝄞",
            "",
            -5L,
            new BigDecimal("24.50"),
            new BigDecimal("-12345678901234567890.123"),
            true,
            false,
            LocalDate.of(1850, 1, 1),
            LocalTime.of(23, 59, 59, 999_999_000),
            LocalDateTime.of(2026, 5, 1, 7, 30),
            Arrays.asList("a", null, List.of(1L, 2L))
        };
        List<Object[]> back = RowCodec.decode(RowCodec.encode(List.of(row, new Object[12]), 12));
        assertThat(back).hasSize(2);
        assertThat(back.get(0)).containsExactly(row);
        assertThat(back.get(1)).containsOnlyNulls();
    }

    @Test
    void packsEqualThingsTightly() {
        List<Object[]> rows = new ArrayList<>();
        for (long i = 0; i < 10_000; i++) {
            rows.add(new Object[] {i, "unchanged", String.format("ST-%08d", i), null});
        }
        assertThat(RowCodec.encode(rows, 4).length).isLessThan(10_000 * 12);
    }

    @Test
    void refusesVersionsItDoesNotKnow() {
        byte[] block = RowCodec.encode(List.of(), 0);
        assertThat(block[0]).isEqualTo(RowCodec.VERSION);
        block[0] = 99;
        assertThatThrownBy(() -> RowCodec.decode(block)).hasMessageContaining("version 99");
    }
}

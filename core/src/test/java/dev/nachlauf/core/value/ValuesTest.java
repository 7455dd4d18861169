package dev.nachlauf.core.value;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.time.LocalDateTime;
import java.time.LocalTime;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ValuesTest {
    /** The quotients are what PostgreSQL 15 answers; the contract tests ask it again. */
    @ParameterizedTest
    @CsvSource({
        "1,3,0.33333333333333333333",
        "10000000000,3,3333333333.33333333",
        "2,1,2.0000000000000000",
        "1.50,0.5,3.0000000000000000",
        "-7,2,-3.5000000000000000"
    })
    void choosesTheScaleOfAQuotientAsPostgresqlDoes(BigDecimal dividend, BigDecimal divisor, String quotient) {
        assertThat(Values.text(Values.divide(dividend, divisor))).isEqualTo(quotient);
    }

    @Test
    void refusesToDivideByZero() {
        assertThatThrownBy(() -> Values.divide(BigDecimal.ONE, new BigDecimal("0.00")))
                .isInstanceOf(ValueProblem.class);
    }

    @Test
    void roundsHalfAwayFromZero() {
        assertThat(Values.integer(new BigDecimal("2.5"))).isEqualTo(3);
        assertThat(Values.integer(new BigDecimal("-2.5"))).isEqualTo(-3);
    }

    @Test
    void comparesDecimalsWithoutTheirScaleAndIntegersWithThem() {
        assertThat(Values.same(new BigDecimal("1.50"), new BigDecimal("1.5"))).isTrue();
        assertThat(Values.same(2L, new BigDecimal("2.00"))).isTrue();
        assertThat(Values.same(null, "")).isFalse();
        assertThat(Values.same(null, null)).isTrue();
        assertThat(Values.same("a", "A")).isFalse();
    }

    @Test
    void ordersTextByCodePoint() {
        // U+FF61 stands before U+10000, though its UTF-16 unit is the larger one
        assertThat(Values.compare("\uFF61", "\uD800\uDC00")).isNegative();
        assertThat(Values.compare("Z", "a")).isNegative();
        assertThat(Values.compare("a", "ab")).isNegative();
    }

    @Test
    void writesCanonicalText() {
        assertThat(Values.text(new BigDecimal("1E+3"))).isEqualTo("1000");
        assertThat(Values.text(LocalTime.of(7, 5, 0, 120_000_000))).isEqualTo("07:05:00.12");
        assertThat(Values.text(LocalDateTime.of(2026, 5, 1, 0, 0))).isEqualTo("2026-05-01 00:00:00");
        assertThat(Values.text(null)).isNull();
    }
}

package dev.nachlauf.connectors.database.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is written is read back equal; that PostgreSQL agrees is the contract tests' concern. */
class BinaryCopyTest {
    private static Object back(Wire wire, Object value) {
        BinaryCopy copy = new BinaryCopy();
        copy.row(1);
        copy.field(wire, value);
        byte[] bytes = Arrays.copyOf(copy.array(), copy.size());
        return new BinaryRow(bytes, BinaryCopy.HEADER + Short.BYTES, 1).value(0, wire);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "0",
                "0.00",
                "1",
                "-1",
                "10000",
                "9999",
                "0.0001",
                "0.00001",
                "123456789.123456789",
                "-0.005",
                "100000000",
                "1E+3",
                "12345678901234567890123456789.000000001",
                "-99999999999999999999",
                "0.10",
                "10000.0001"
            })
    void numbersKeepTheirValueAndScale(String text) {
        BigDecimal number = new BigDecimal(text);
        BigDecimal read = (BigDecimal) back(Wire.NUMERIC, number);
        assertThat(read).isEqualByComparingTo(number);
        assertThat(read.scale()).isEqualTo(Math.max(0, number.scale()));
    }

    @Test
    void randomNumbersKeepTheirValue() {
        Random random = new Random(42);
        for (int i = 0; i < 20_000; i++) {
            BigDecimal number = new BigDecimal(new BigInteger(random.nextInt(120), random), random.nextInt(30));
            BigDecimal signed = random.nextBoolean() ? number : number.negate();
            assertThat((BigDecimal) back(Wire.NUMERIC, signed)).isEqualByComparingTo(signed);
        }
    }

    @Test
    void otherKindsKeepTheirValue() {
        assertThat(back(Wire.TEXT, "Föhren 𝄞")).isEqualTo("Föhren 𝄞");
        assertThat(back(Wire.TEXT, null)).isNull();
        assertThat(back(Wire.INT2, -7L)).isEqualTo(-7L);
        assertThat(back(Wire.INT4, (long) Integer.MIN_VALUE)).isEqualTo((long) Integer.MIN_VALUE);
        assertThat(back(Wire.INT8, Long.MIN_VALUE)).isEqualTo(Long.MIN_VALUE);
        assertThat(back(Wire.BOOL, true)).isEqualTo(true);
        assertThat(back(Wire.DATE, LocalDate.of(1582, 10, 4))).isEqualTo(LocalDate.of(1582, 10, 4));
        assertThat(back(Wire.TIME, LocalTime.of(23, 59, 59, 999_999_000)))
                .isEqualTo(LocalTime.of(23, 59, 59, 999_999_000));
        assertThat(back(Wire.TIME, LocalTime.MAX)).as("24:00 in the database").isEqualTo(LocalTime.MAX);
        LocalDateTime early = LocalDateTime.of(1969, 12, 31, 23, 59, 59, 1_000);
        assertThat(back(Wire.TIMESTAMP, early)).isEqualTo(early);
    }

    @Test
    void textIsComparedWithoutDecoding() {
        BinaryCopy copy = new BinaryCopy();
        copy.row(3);
        copy.field(Wire.TEXT, "abc");
        copy.field(Wire.TEXT, "äbc");
        copy.field(Wire.TEXT, null);
        BinaryRow row = new BinaryRow(Arrays.copyOf(copy.array(), copy.size()), BinaryCopy.HEADER + Short.BYTES, 3);
        assertThat(row.sameText(0, "abc")).isTrue();
        assertThat(row.sameText(0, "abd")).isFalse();
        assertThat(row.sameText(0, "ab")).isFalse();
        assertThat(row.sameText(1, "äbc")).isTrue();
        assertThat(row.sameText(1, "abc")).isFalse();
        assertThat(row.sameText(2, "")).isFalse();
    }
}

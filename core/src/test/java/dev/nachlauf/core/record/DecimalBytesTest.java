package dev.nachlauf.core.record;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is written is read back equal; that PostgreSQL agrees is the contract tests' concern. */
class DecimalBytesTest {
    private static BigDecimal back(BigDecimal number) {
        ByteSink out = new ByteSink(8);
        CellCodec.DECIMAL.write(number, out);
        return (BigDecimal) CellCodec.DECIMAL.read(out.toArray(), 0);
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
        BigDecimal read = back(number);
        assertThat(read).isEqualByComparingTo(number);
        assertThat(read.scale()).isEqualTo(Math.max(0, number.scale()));
    }

    @Test
    void randomNumbersKeepTheirValue() {
        Random random = new Random(42);
        for (int i = 0; i < 20_000; i++) {
            BigDecimal number = new BigDecimal(new BigInteger(random.nextInt(120), random), random.nextInt(30));
            BigDecimal signed = random.nextBoolean() ? number : number.negate();
            assertThat(back(signed)).isEqualByComparingTo(signed);
        }
    }
}

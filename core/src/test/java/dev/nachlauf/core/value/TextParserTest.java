package dev.nachlauf.core.value;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.ProblemCode;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class TextParserTest {
    @ParameterizedTest
    @CsvSource({
        "17,17",
        "' -17 ',-17",
        "+0,0",
        "9223372036854775807,9223372036854775807",
        "-9223372036854775808,-9223372036854775808"
    })
    void readsIntegers(String text, long value) {
        assertThat(TextParser.of(Kind.INTEGER, null, null).parse(text)).isEqualTo(value);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "-", "1.0", "1e3", "１７", "17 2", "abc"})
    void refusesWhatIsNoInteger(String text) {
        assertThatThrownBy(() -> TextParser.of(Kind.INTEGER, null, null).parse(text))
                .isInstanceOf(ValueProblem.class);
    }

    @Test
    void refusesIntegersBeyond64Bits() {
        assertThatThrownBy(() -> TextParser.of(Kind.INTEGER, null, null).parse("9223372036854775808"))
                .isInstanceOfSatisfying(
                        ValueProblem.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.OUT_OF_RANGE));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {"1.50|1.50", "-.5|-0.5", " 12 |12", "123456789012345678901.25|123456789012345678901.25"})
    void keepsDecimalsExactWithTheirScale(String text, BigDecimal value) {
        assertThat(TextParser.of(Kind.DECIMAL, null, null).parse(text)).isEqualTo(value);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "de|1.234,56|1234.56",
                "de|12,5|12.5",
                "de|1234,5|1234.5",
                "en|1,234.56|1234.56",
                "fr|1 234,56|1234.56",
                "ch|1'234.56|1234.56",
                "de|-1.234.567|-1234567"
            })
    void readsNumbersOfALocale(String locale, String text, BigDecimal value) {
        assertThat(TextParser.of(Kind.DECIMAL, null, locale).parse(text)).isEqualTo(value);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {"de|1.23,4", "de|12.5", "de|1,5,5", "en|1,23.4", "de|.123", "de|1.234.56"})
    void refusesGroupsInTheWrongPlace(String locale, String text) {
        assertThatThrownBy(() -> TextParser.of(Kind.DECIMAL, null, locale).parse(text))
                .isInstanceOf(ValueProblem.class);
    }

    @ParameterizedTest
    @CsvSource({
        "dd.MM.yyyy,31.12.2026",
        "yyyyMMdd,20261231",
        "MM/dd/yyyy,12/31/2026",
        "d.M.yyyy,31.12.2026",
        "'d MMM yyyy','31 Dec 2026'"
    })
    void readsDatesByPattern(String pattern, String text) {
        assertThat(TextParser.of(Kind.DATE, pattern, null).parse(text)).isEqualTo(LocalDate.of(2026, 12, 31));
    }

    @ParameterizedTest
    @CsvSource({
        "dd.MM.yyyy,31.06.2026",
        "dd.MM.yyyy,1.6.2026",
        "dd.MM.yyyy,01-06-2026",
        "d.M.yyyy,31.6.2026",
        "dd.MM.yyyy,00.00.0000",
        "dd.MM.yyyy,n/a"
    })
    void refusesDatesThatAreNone(String pattern, String text) {
        assertThatThrownBy(() -> TextParser.of(Kind.DATE, pattern, null).parse(text))
                .isInstanceOfSatisfying(
                        ValueProblem.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.VALUE_MALFORMED));
    }

    @Test
    void readsTimesAndTruths() {
        assertThat(TextParser.of(Kind.TIME, null, null).parse("07:30")).isEqualTo(LocalTime.of(7, 30));
        assertThat(TextParser.of(Kind.TIMESTAMP, null, null).parse("2026-05-01 07:30:15"))
                .isEqualTo(LocalDateTime.of(2026, 5, 1, 7, 30, 15));
        assertThat(TextParser.of(Kind.BOOLEAN, null, null).parse(" TRUE ")).isEqualTo(true);
        assertThatThrownBy(() -> TextParser.of(Kind.BOOLEAN, null, null).parse("yes"))
                .isInstanceOf(ValueProblem.class);
    }
}

package dev.nachlauf.core.source;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Reading;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FieldGuessTest {
    private static Guess guess(Object... cells) {
        FieldGuess guess = new FieldGuess();
        for (Object cell : cells) {
            guess.add(cell);
        }
        return guess.guess();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "true|false|boolean||",
                "12|-7|integer||",
                "12|7.50|decimal||",
                "24,50|7|decimal||de",
                "1.234,50|7|decimal||de",
                "1,234.50|7|decimal||en",
                "1'234.50|7|decimal||ch",
                "2026-05-01|2026-12-31|date||",
                "01.05.2026|31.12.2026|date|dd.MM.yyyy|",
                "1.5.2026|31.12.2026|date|d.M.yyyy|",
                "13/05/2026|01/02/2026|date|dd/MM/yyyy|",
                "05/13/2026|01/02/2026|date|MM/dd/yyyy|",
                "20260501|20261231|date|yyyyMMdd|",
                "2026-05-01 13:30|2026-05-01T13:30:15|timestamp||",
                "13:30|07:05:10|time||",
                "Jun 12 1998|may 3 2001|date|MMM d yyyy|",
                "Jun 12, 1998|Oct 3, 2001|date|MMM d, yyyy|",
                "12 Jun 1998|3 Oct 2001|date|d MMM yyyy|",
                "05.13.2026|01.02.2026|date|MM.dd.yyyy|",
                "01.02.2026|03.04.2026|date|dd.MM.yyyy|",
                "Ja|nein|boolean|ja/nein|",
                "J|N|boolean|j/n|",
                "yes|No|boolean|yes/no|",
                "H-001|12|text||",
                "ca. 40|12|text||",
            })
    void readsWhatAllValuesHaveInCommon(String first, String second, String kind, String pattern, String locale) {
        Guess guess = guess(first, second);
        assertThat(guess.reading()).isEqualTo(new Reading(Kind.of(kind).orElseThrow(), pattern, locale));
        assertThat(guess.question()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"007", "0664", "+43664", "1234567890123456"})
    void digitsThatDontCountStayText(String code) {
        Guess guess = guess("12", code, "13");
        assertThat(guess.reading()).isEqualTo(Reading.TEXT);
        assertThat(guess.evidence()).contains("1 of 3").contains(code);
    }

    @Test
    void zeroAndDecimalsBelowOneAreNumbers() {
        assertThat(guess("0", "0.5").reading().kind()).isEqualTo(Kind.DECIMAL);
    }

    @Test
    void dayAndMonthThatCantBeToldApartAreAskedFor() {
        Guess guess = guess("01/02/2026", "05/06/2026");
        assertThat(guess.reading()).isEqualTo(Reading.TEXT);
        assertThat(guess.question())
                .isEqualTo(
                        "'01/02/2026' can be 2026-02-01 (date like dd/MM/yyyy) or 2026-01-02 (date like MM/dd/yyyy).");
        assertThat(guess.confidence()).isLessThanOrEqualTo(0.5);
        assertThat(guess("03/03/2026").question()).as("the same day either way").isEmpty();
    }

    @Test
    void groupsThatCouldBeDecimalsAreAskedFor() {
        assertThat(guess("1.250", "980").question()).contains("1250").contains("1.250");
        assertThat(guess("1.250", "980", "12,5").reading().locale()).isEqualTo("de");
        assertThat(guess("1.250.000").reading()).isEqualTo(new Reading(Kind.INTEGER, null, "de"));
    }

    @Test
    void aFewValuesMayContradictAndAreNamed() {
        Object[] cells =
                IntStream.range(0, 99).mapToObj(n -> (Object) String.valueOf(n)).toArray();
        cells[50] = "many";
        Guess guess = guess(cells);
        assertThat(guess.reading().kind()).isEqualTo(Kind.INTEGER);
        assertThat(guess.evidence()).contains("98 of 99").contains("'many'");
        assertThat(guess.confidence()).isBetween(0.95, 0.99);
        assertThat(guess("1", "2", "many").reading()).isEqualTo(Reading.TEXT);
    }

    @Test
    void typedCellsKeepTheirKind() {
        assertThat(guess(7L, new BigDecimal("2.5")).reading()).isEqualTo(new Reading(Kind.DECIMAL, null, null));
        assertThat(guess(LocalDate.of(2026, 5, 1), LocalDate.of(2026, 5, 2)).reading())
                .isEqualTo(new Reading(Kind.DATE, null, null));
        assertThat(guess(LocalDate.of(2026, 5, 1), "02.05.2026").reading().pattern())
                .isEqualTo("dd.MM.yyyy");
    }

    @Test
    void wordsForTruthsHaveTheirOpposite() {
        assertThat(guess("NO", "no").reading()).as("a region, perhaps").isEqualTo(Reading.TEXT);
        assertThat(guess("ja", "n").reading()).isEqualTo(Reading.TEXT);
    }

    @Test
    void crossesAreAskedForAndZerosAndOnesStayNumbers() {
        Guess crosses = guess("x", null, "X", " ");
        assertThat(crosses.reading()).isEqualTo(Reading.TEXT);
        assertThat(crosses.question()).contains("true: [x], false: ['']");
        assertThat(guess("x", "x").question()).as("no cell is empty").isEmpty();
        Guess numbers = guess("0", "1", "1");
        assertThat(numbers.reading().kind()).isEqualTo(Kind.INTEGER);
        assertThat(numbers.evidence()).contains("true: ['1'], false: ['0']");
        assertThat(guess("0", "1", "2").evidence()).doesNotContain("truths");
    }

    @Test
    void nothingIsConcludedFromNothing() {
        assertThat(guess(null, " ")).isEqualTo(new Guess(Reading.TEXT, 0, "the sample has no value of it", ""));
    }

    @Test
    void aFieldOfRowsThatCantBeReadIsNotCalledEmpty() {
        FieldGuess guess = new FieldGuess();
        guess.add("");
        guess.unreadable();
        assertThat(guess.guess().evidence()).isEqualTo("no row of the sample that can be read has a value of it");
        guess.add("7");
        assertThat(guess.guess().evidence()).isEqualTo("1 of 1 values are integer");
    }
}

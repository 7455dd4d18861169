package dev.nachlauf.core.value;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Booleans as people write them. */
class TruthTextTest {
    private static Object read(Object cell, String pattern) {
        return Reading.read(cell, Kind.BOOLEAN, new Reading(Kind.BOOLEAN, pattern, null).parser());
    }

    @ParameterizedTest
    @CsvSource({
        "ja, 'ja,x/nein,', true",
        "JA, 'ja,x/nein,', true",
        "' x ', 'ja,x/nein,', true",
        "Nein, 'ja,x/nein,', false",
        "' ', 'ja,x/nein,', false",
        "1, 1/0, true",
        "0, 1/0, false",
        "true, , true",
    })
    void wordsAreReadInAnyCase(String text, String pattern, boolean truth) {
        assertThat(read(text, pattern)).isEqualTo(truth);
    }

    @Test
    void otherWordsAreRefusedAndTheExpectedOnesNamed() {
        assertThatThrownBy(() -> read("vielleicht", "ja,x/nein,"))
                .isInstanceOfSatisfying(
                        ValueProblem.class,
                        e -> assertThat(e.sentence())
                                .isEqualTo("'vielleicht' is not one of ja, x (true) or nein, nothing (false)."));
        assertThatThrownBy(() -> read("1", null)).isInstanceOf(ValueProblem.class);
    }

    @Test
    void anEmptyCellIsWhatTheEmptyWordSays() {
        TextParser crosses = new Reading(Kind.BOOLEAN, "x/", null).parser();
        assertThat(Reading.readOrEmpty(null, Kind.BOOLEAN, crosses)).isEqualTo(false);
        assertThat(Reading.readOrEmpty("x", Kind.BOOLEAN, crosses)).isEqualTo(true);
        TextParser words = new Reading(Kind.BOOLEAN, "ja/nein", null).parser();
        assertThat(Reading.readOrEmpty(null, Kind.BOOLEAN, words)).isNull();
    }

    @Test
    void numbersOfWorkbooksAreReadAsTheyAreWritten() {
        assertThat(read(1L, "1/0")).isEqualTo(true);
        assertThat(read(new BigDecimal("0"), "1/0")).isEqualTo(false);
        assertThat(read(true, "ja/nein")).isEqualTo(true);
    }

    @ParameterizedTest
    @ValueSource(strings = {"ja", "/", "ja/nein/x", "ja/JA"})
    void whatIsNoPatternIsRefused(String pattern) {
        assertThatThrownBy(() -> new Reading(Kind.BOOLEAN, pattern, null).parser())
                .isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void aPatternIsMadeOfTwoLists() {
        assertThat(TruthText.pattern(List.of("ja", "x"), List.of("nein", ""))).isEqualTo("ja,x/nein,");
        assertThat(TruthText.isWord("a/b")).isFalse();
        assertThat(TruthText.isWord("a,b")).isFalse();
    }
}

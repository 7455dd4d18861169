package dev.nachlauf.core.function;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.google.re2j.Pattern;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PatternSizeTest {
    private static final long MOST = 10_000;

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            value = {
                "abc§3",
                "a{3}§3",
                "a{3,}§3",
                "a{2,5}b§6",
                "(ab){3}§9",
                "(a{10}){10}§110",
                "((a{10}){10}){10}§1110",
                "[a-z]{4}§4",
                "[^]x]{4}§4",
                "[a\\]b]{4}§4",
                "\\d{2}\\.\\d{2}§5",
                "a|b*c+§6",
                "\\Q[(\\E(a{10}){10}§112",
                "\\Q{3}\\E{2}§4",
                "\\Q§0",
                "a{2§3",
                "a{x}§4",
                "(((§0",
                "))a§3",
            })
    void countsPlacesWithRepetitionsWrittenOut(String pattern, long places) {
        assertThat(PatternSize.of(pattern, MOST)).isEqualTo(places);
    }

    @Test
    void repetitionsThatMultiplyBeyondAllNumbersAreMoreThanAsked() {
        String nested = "(".repeat(40) + "a" + "){999999999}".repeat(40);
        assertThat(PatternSize.of(nested, MOST)).isGreaterThan(MOST);
        assertThat(PatternSize.of("a{999999999}".repeat(80), MOST)).isGreaterThan(MOST);
    }

    @Test
    void aTextThatCanCostLittleIsReadAsItIs() {
        String text = "a".repeat(1_000);
        assertThat(MeteredText.of(text, 100)).isSameAs(text);
        assertThat(MeteredText.of(text, 101))
                .isNotSameAs(text)
                .hasToString(text)
                .hasSize(1_000);
    }

    @Test
    void aTextIsReadSoOftenAndNoMore() {
        long places = Values.MOST_STEPS / 1_000;
        CharSequence metered = MeteredText.of("a".repeat(2_000), places);
        assertThatCode(() -> {
                    for (int i = 0; i < 3_000; i++) {
                        metered.charAt(i % 2_000);
                    }
                })
                .doesNotThrowAnyException();
        assertThatThrownBy(() -> metered.charAt(0)).isInstanceOf(ValueProblem.class);
    }

    /** The rest of the text is read again for every match: 20,000 characters would be read 400 million times. */
    @Test
    void lookingForMatchAfterMatchEnds() {
        CharSequence metered = MeteredText.of("a".repeat(20_000), 8);
        var matcher = Pattern.compile("a(.*b)?").matcher(metered);
        assertThatThrownBy(() -> {
                    while (matcher.find()) {
                        // each match is one character
                    }
                })
                .isInstanceOf(ValueProblem.class);
    }
}

package dev.nachlauf.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class NamePatternTest {
    @ParameterizedTest
    @CsvSource({
        "stays.csv, stays.csv, true",
        "stays.csv, stays_csv, false",
        "*, anything, true",
        "*.csv, stays.csv, true",
        "*.csv, stays.csv.gz, false",
        "stays-*.csv, stays-.csv, true",
        "stays-????.csv, stays-2026.csv, true",
        "stays-????.csv, stays-226.csv, false",
        "*stays*2026*.csv, old-stays-of-2025-and-2026-b.csv, true",
        "*ab*ab*c, abxxabab, false",
        "**a**, bab, true",
        "?, 🏔, true",
        "[a]+(b), [a]+(b), true",
        "a*, b, false",
    })
    void starsStandForAnythingAndQuestionMarksForOneCharacter(String pattern, String name, boolean fits) {
        assertThat(NamePattern.of(pattern).matches(name)).isEqualTo(fits);
    }

    @Test
    void questionMarksCanBeOrdinary() {
        assertThat(NamePattern.ofStars("open?*").matches("open? (May)")).isTrue();
        assertThat(NamePattern.ofStars("open?").matches("opens")).isFalse();
    }

    /** By trying all ways this would take longer than anybody lives. */
    @Test
    void aHostilePatternCostsNoMoreThanItsLength() {
        String pattern = "*a".repeat(200) + "b";
        assertThat(NamePattern.of(pattern).matches("a".repeat(10_000))).isFalse();
    }
}

package dev.nachlauf.core.formula;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.ValueProblem;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What one formula may cost: each bound of the docs at its limit, and one past it. */
class BoundsTest {
    private static final Shape SHAPE =
            new Shape(List.of(new Field("t", Kind.TEXT), new Field("u", Kind.TEXT), new Field("d", Kind.DECIMAL)));
    private static final String MILLION = "a".repeat(1_000_000);

    private static @Nullable Object value(String formula, @Nullable Object... row) {
        List<Problem> problems = new ArrayList<>();
        Formula checked = Formula.check(FormulaSource.of(formula), Scope.of(SHAPE), problems)
                .orElseThrow(() -> new AssertionError(problems.toString()));
        return checked.evaluator().evaluate(row);
    }

    private static void assertTooMuch(String formula, @Nullable Object... row) {
        assertThatThrownBy(() -> value(formula, row))
                .isInstanceOfSatisfying(
                        ValueProblem.class,
                        problem -> assertThat(problem.code()).isEqualTo(ProblemCode.OUT_OF_RANGE));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            value = {
                "repeat(t, 500000)§repeat(t, 500001)",
                "pad_left(t, 1000000)§pad_left(t, 1000001)",
                "pad_right(t, 1000000, 'xyz')§pad_right(t, 1000001, 'xyz')",
                "repeat(t, 499999) || 'ab'§repeat(t, 499999) || 'abc'",
                "repeat('a', 499999) || 'b' || repeat('c', 500000)§repeat('a', 499999) || 'bb' || repeat('c', 500000)",
                "replace(repeat('a', 100000), 'a', '0123456789')§replace(repeat('a', 100001), 'a', '0123456789')",
                "replace_matches(repeat('a', 100000), 'a', '0123456789')§replace_matches(repeat('a', 100001), 'a', '0123456789')",
            })
    void aTextHasAMillionCharacters(String longest, String longer) {
        assertThat((String) value(longest, "ab", "", null)).hasSize(1_000_000);
        assertTooMuch(longer, "ab", "", null);
    }

    @Test
    void aDecimalHasTwoThousandDigits() {
        BigDecimal thousand = new BigDecimal("9".repeat(1_000));
        assertThat(((BigDecimal) value("d * d", "", "", thousand)).precision()).isEqualTo(2_000);
        assertTooMuch("d * d * 10.0", "", "", thousand);
        BigDecimal small = new BigDecimal("0." + "0".repeat(999) + "1");
        assertThat(((BigDecimal) value("d * d", "", "", small)).scale()).isEqualTo(2_000);
        assertTooMuch("d * d * 0.1", "", "", small);
    }

    @Test
    void aPatternHasAThousandCharactersAndTenThousandPlaces() {
        assertThat(value("matches(t, u)", "a".repeat(1_000), "a".repeat(1_000), null))
                .isEqualTo(true);
        assertTooMuch("matches(t, u)", "", "a".repeat(1_001), null);
        assertThat(value("matches(t, u)", "a".repeat(900), "(?:a{900}){1,10}", null))
                .isEqualTo(true);
        assertTooMuch("matches(t, u)", "", "((a{100}){100}){2}", null);
        assertTooMuch("matches(t, u)", "", "a{999}".repeat(11), null);
        assertThat(value("matches(t, u)", "2026-05-01T07:30", "[0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}", null))
                .as("repetitions beside each other add up, they don't multiply")
                .isEqualTo(true);
    }

    @Test
    void aDatePatternHasAHundredCharacters() {
        assertThat(value("format_date(date '2026-05-01', u)", "", "'" + "x".repeat(98) + "'", null))
                .isEqualTo("x".repeat(98));
        assertTooMuch("format_date(date '2026-05-01', u)", "", "'" + "x".repeat(99) + "'", null);
    }

    /** Each would take minutes to years: what is hostile are lengths that multiply. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            value = {
                "t like u§%ab",
                "t like '%a' || repeat('a', 10000) || 'b%'§",
                "matches(t, u)§(a?a){400}b",
                "find_match(t, u)§(?:a+a+)+b",
                "replace_matches(t, u, '')§a(.*b)?",
                "replace(t, left(t, 500000) || 'b', '')§",
                "position(left(t, 500000) || 'b' in t)§",
                "contains(t, left(t, 500000) || 'b')§",
                "split_part(t, left(t, 500000) || 'b', 1)§",
                "trim(leading repeat('b', 999999) || 'a' from t)§",
            })
    void noFormulaHangs(String formula, @Nullable String pattern) {
        try {
            assertThat(value(formula, MILLION, pattern, null)).isIn(false, null);
        } catch (ValueProblem problem) {
            assertThat(problem.code()).isEqualTo(ProblemCode.OUT_OF_RANGE);
            assertThat(problem.sentence()).contains("100,000,000 steps");
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "t like '%b%'",
                "matches(t, '.*b')",
                "matches(t, '[b-z]+')",
                "contains(t, 'b')",
                "starts_with(t, 'b')",
            })
    void whatIsLongButPlainIsComputed(String formula) {
        assertThat(value(formula, MILLION, "", null)).isEqualTo(false);
    }

    @Test
    void aFormulaCallsAThousandPieces() {
        assertThat(doubling(8)).as("2 + 4 + … + 512").isEmpty();
        assertThat(doubling(9)).extracting(Problem::code).containsOnly(ProblemCode.FORMULA_TOO_LARGE);
    }

    /** What is wrong with a formula whose pieces call each other twice, so many levels deep. */
    private static List<Problem> doubling(int levels) {
        Map<String, Piece> pieces = new HashMap<>();
        List<Field> takes = List.of(new Field("x", Kind.INTEGER));
        pieces.put("p0", new Piece("p0", takes, FormulaSource.of("x + 1")));
        for (int i = 1; i <= levels; i++) {
            String below = "p" + (i - 1);
            pieces.put("p" + i, new Piece("p" + i, takes, FormulaSource.of(below + "(x) + " + below + "(x)")));
        }
        List<Problem> problems = new ArrayList<>();
        Scope scope = new Scope(SHAPE, new Surroundings(Map.of(), Map.of(), Map.of(), pieces));
        Formula.check(FormulaSource.of("p" + levels + "(1)"), scope, problems);
        return problems;
    }
}

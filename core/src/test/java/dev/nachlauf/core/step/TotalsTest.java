package dev.nachlauf.core.step;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.formula.Aggregation.Word;
import dev.nachlauf.core.value.ValueProblem;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class TotalsTest {
    private static Totals totals(Word word) {
        return new Totals(word, row -> row[0]);
    }

    /** Whole numbers, short and long decimals of all scales, and nulls. */
    private static @Nullable Object value(Random random) {
        return switch (random.nextInt(5)) {
            case 0 -> null;
            case 1 -> (long) random.nextInt(1_000) - 500;
            case 2 -> BigDecimal.valueOf(random.nextInt(100_000), random.nextInt(6) - 2);
            case 3 -> new BigDecimal("12345678901234567890." + random.nextInt(1_000));
            default -> BigDecimal.valueOf(random.nextInt(9) + 1, 200);
        };
    }

    private static @Nullable Object plain(Word word, List<Object> values) {
        if (word == Word.COUNT) {
            return (long) values.size();
        }
        if (values.isEmpty()) {
            return null;
        }
        return switch (word) {
            case SUM -> values.stream().map(TotalsTest::number).reduce(BigDecimal.ZERO, BigDecimal::add);
            case MIN ->
                values.stream().map(TotalsTest::number).reduce(BigDecimal::min).orElseThrow();
            case MAX ->
                values.stream().map(TotalsTest::number).reduce(BigDecimal::max).orElseThrow();
            case FIRST -> number(values.getFirst());
            case LAST -> number(values.getLast());
            case COUNT -> throw new IllegalStateException();
        };
    }

    private static BigDecimal number(Object value) {
        return value instanceof Long whole ? BigDecimal.valueOf(whole) : (BigDecimal) value;
    }

    @ParameterizedTest
    @EnumSource(Word.class)
    void areWhatAPlainListMakesOfTheSameValues(Word word) {
        Random random = new Random(word.ordinal());
        Totals totals = totals(word);
        List<List<Object>> groups = new ArrayList<>();
        for (int i = 0; i < 200; i++) {
            groups.add(new ArrayList<>());
        }
        for (int i = 0; i < 1_500; i++) {
            int group = random.nextInt(groups.size());
            Object value = value(random);
            totals.add(group, new @Nullable Object[] {value});
            if (value != null) {
                groups.get(group).add(value);
            }
        }
        for (int group = 0; group < groups.size(); group++) {
            Object expected = plain(word, groups.get(group));
            Object result = totals.result(group);
            if (expected instanceof BigDecimal number) {
                assertThat(number(result)).as("group " + group).isEqualByComparingTo(number);
            } else {
                assertThat(result).as("group " + group).isEqualTo(expected);
            }
        }
    }

    @Test
    void keepsTheScaleOfADecimal() {
        Totals totals = totals(Word.LAST);
        for (String text : List.of("1.50", "1E+3", "0.000", "123456789012345678901234567890.10", "1E-200")) {
            totals.add(0, new Object[] {new BigDecimal(text)});
            assertThat(totals.result(0)).isEqualTo(new BigDecimal(text));
        }
    }

    @Test
    void integersStayIntegersAndAreBounded() {
        Totals totals = totals(Word.SUM);
        totals.add(3, new Object[] {Long.MAX_VALUE - 1});
        totals.add(3, new Object[] {1L});
        assertThat(totals.result(3)).isEqualTo(Long.MAX_VALUE);
        assertThatThrownBy(() -> totals.add(3, new Object[] {1L})).isInstanceOf(ValueProblem.class);
        assertThat(totals.result(3)).isEqualTo(Long.MAX_VALUE);
        assertThat(totals.result(2)).isNull();
        assertThat(totals.result(99)).isNull();
    }

    @Test
    void countsRowsWhereThereIsNoArgument() {
        Totals totals = new Totals(Word.COUNT, null);
        totals.add(1, new Object[] {});
        totals.add(1, new Object[] {});
        assertThat(totals.result(1)).isEqualTo(2L);
        assertThat(totals.result(0)).isEqualTo(0L);
        assertThat(totals.result(50)).isEqualTo(0L);
    }
}

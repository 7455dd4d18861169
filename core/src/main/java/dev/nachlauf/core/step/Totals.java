package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.Aggregation;
import dev.nachlauf.core.formula.Aggregation.Word;
import dev.nachlauf.core.formula.Evaluator;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The running results of one aggregate for many groups, which are known by number. Nulls are left out; of nothing the sum
 * is null and the count 0. Most results are numbers, and take 64 bits and a scale.
 */
final class Totals {
    private static final byte NOTHING = Byte.MIN_VALUE;
    private static final byte WHOLE = Byte.MIN_VALUE + 1;
    /** Neither a whole number nor a short decimal: it lies apart. */
    private static final byte APART = Byte.MIN_VALUE + 2;

    private static final int SHORT = 18;

    private final Word word;
    private final @Nullable Evaluator argument;
    private long[] numbers = new long[1];
    /** The scale of the number, or what it is instead. */
    private byte[] scales = {NOTHING};

    private final Map<Integer, Object> apart = new HashMap<>();

    Totals(Aggregation.Call call) {
        this(call.word(), call.argument());
    }

    /** @param argument what is aggregated of each row; null where rows are counted */
    Totals(Word word, @Nullable Evaluator argument) {
        this.word = word;
        this.argument = argument;
    }

    /** Adds a row to a group; throws what its argument throws. */
    void add(int group, @Nullable Object[] slots) {
        if (group >= numbers.length) {
            int before = scales.length;
            numbers = Arrays.copyOf(numbers, Math.max(16, group * 2));
            scales = Arrays.copyOf(scales, numbers.length);
            Arrays.fill(scales, before, scales.length, NOTHING);
        }
        Object value = argument == null ? slots : argument.evaluate(slots);
        if (value == null) {
            return;
        }
        if (word == Word.COUNT) {
            numbers[group]++;
            return;
        }
        Object before = scales[group] == NOTHING ? null : value(group);
        put(group, before == null ? value : joined(before, value));
    }

    private Object joined(Object before, Object value) {
        return switch (word) {
            case SUM -> sum(before, value);
            case MIN -> Values.compare(value, before) < 0 ? value : before;
            case MAX -> Values.compare(value, before) > 0 ? value : before;
            case LAST -> value;
            case FIRST, COUNT -> before;
        };
    }

    /** Integers stay integers; beyond 64 bits the row is rejected. */
    private static Object sum(Object a, Object b) {
        if (a instanceof Long left && b instanceof Long right) {
            try {
                return Math.addExact(left, right);
            } catch (ArithmeticException e) {
                throw Values.outOfRange();
            }
        }
        return Values.bounded(Values.decimal(a).add(Values.decimal(b)));
    }

    private void put(int group, Object value) {
        if (value instanceof Long whole) {
            numbers[group] = whole;
            scales[group] = WHOLE;
        } else if (value instanceof BigDecimal number
                && number.precision() <= SHORT
                && number.scale() > APART
                && number.scale() <= Byte.MAX_VALUE) {
            numbers[group] = number.unscaledValue().longValue();
            scales[group] = (byte) number.scale();
        } else {
            apart.put(group, value);
            scales[group] = APART;
        }
    }

    private @Nullable Object value(int group) {
        return switch (scales[group]) {
            case NOTHING -> null;
            case WHOLE -> numbers[group];
            case APART -> apart.get(group);
            default -> BigDecimal.valueOf(numbers[group], scales[group]);
        };
    }

    /** The result of a group, of nothing: a count of 0, or null. */
    @Nullable
    Object result(int group) {
        if (group >= numbers.length) {
            return word == Word.COUNT ? (Object) 0L : null;
        }
        return word == Word.COUNT ? (Object) numbers[group] : value(group);
    }

    /** About how many bytes they take. */
    long bytes() {
        return 9L * numbers.length + 150L * apart.size();
    }
}

package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.Aggregation;
import dev.nachlauf.core.formula.Aggregation.Word;
import dev.nachlauf.core.formula.Evaluator;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The running result of one aggregate. Nulls are left out; of nothing the sum is null and the count 0. */
final class Accumulator {
    private final Word word;
    private final @Nullable Evaluator argument;
    private @Nullable Object result;
    private long count;

    Accumulator(Aggregation.Call call) {
        this.word = call.word();
        this.argument = call.argument();
    }

    static List<Accumulator> of(List<Aggregation.Call> calls) {
        return calls.stream().map(Accumulator::new).toList();
    }

    /** Adds a row; throws what its argument throws. */
    void add(@Nullable Object[] slots) {
        if (argument == null) {
            count++;
            return;
        }
        Object value = argument.evaluate(slots);
        if (value == null) {
            return;
        }
        count++;
        Object before = result;
        result = before == null ? value : joined(word, before, value);
    }

    /** What becomes of a result with one value more. */
    static Object joined(Word word, Object before, Object value) {
        return switch (word) {
            case SUM -> sum(before, value);
            case MIN -> Values.compare(value, before) < 0 ? value : before;
            case MAX -> Values.compare(value, before) > 0 ? value : before;
            case LAST -> value;
            case FIRST, COUNT -> before;
        };
    }

    /** Integers stay integers; beyond 64 bits the row is rejected. */
    static Object sum(Object a, Object b) {
        if (a instanceof Long left && b instanceof Long right) {
            try {
                return Math.addExact(left, right);
            } catch (ArithmeticException e) {
                throw Values.outOfRange();
            }
        }
        BigDecimal sum = Values.decimal(a).add(Values.decimal(b));
        return Values.bounded(sum);
    }

    @Nullable
    Object result() {
        return word == Word.COUNT ? (Object) count : result;
    }
}

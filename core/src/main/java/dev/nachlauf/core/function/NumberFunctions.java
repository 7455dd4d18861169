package dev.nachlauf.core.function;

import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.ValueProblem;
import java.math.BigDecimal;
import java.math.RoundingMode;

/** What the functions on numbers compute. */
final class NumberFunctions {
    private static final int MOST_DIGITS = 1000;

    private NumberFunctions() {}

    static BigDecimal round(Object[] arguments) {
        BigDecimal number = (BigDecimal) arguments[0];
        long digits = arguments.length == 2 ? (Long) arguments[1] : 0;
        if (Math.abs(digits) > MOST_DIGITS) {
            throw new ValueProblem(ProblemCode.OUT_OF_RANGE, "round takes -1000 to 1000 digits.");
        }
        BigDecimal rounded = number.setScale((int) digits, RoundingMode.HALF_UP);
        return rounded.scale() < 0 ? rounded.setScale(0, RoundingMode.UNNECESSARY) : rounded;
    }
}

package dev.nachlauf.core.function;

import static dev.nachlauf.core.value.Kind.DECIMAL;
import static dev.nachlauf.core.value.Kind.INTEGER;
import static dev.nachlauf.core.value.Kind.TEXT;

import dev.nachlauf.core.function.Function.Body;
import dev.nachlauf.core.function.Function.Topic;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The functions on numbers. */
final class NumberFunctions {
    private static final int MOST_DIGITS = 1000;

    private NumberFunctions() {}

    private static Definition number(String name, Kind kind) {
        return Definition.of(Topic.NUMBERS, name).takes("number", kind).gives(kind);
    }

    static List<Function> all() {
        return List.of(
                number("abs", INTEGER)
                        .help("The number without its sign.")
                        .errors("It is the smallest integer, whose counterpart 64 bits can't hold.")
                        .example("abs(-3)", "3")
                        .is((a, b, c) -> exact(() -> Math.absExact((Long) a))),
                number("abs", DECIMAL)
                        .help("The number without its sign; the scale stays.")
                        .example("abs(-2.50)", "2.50")
                        .is((a, b, c) -> ((BigDecimal) a).abs()),
                number("ceiling", DECIMAL)
                        .help("The next whole number that is not smaller.")
                        .example("ceiling(2.1)", "3")
                        .is((a, b, c) -> ((BigDecimal) a).setScale(0, RoundingMode.CEILING)),
                number("floor", DECIMAL)
                        .help("The next whole number that is not larger.")
                        .example("floor(-2.1)", "-3")
                        .is((a, b, c) -> ((BigDecimal) a).setScale(0, RoundingMode.FLOOR)),
                number("mod", INTEGER)
                        .takes("divisor", INTEGER)
                        .help("What is left of a division; it has the sign of the number.")
                        .errors("The divisor is zero.")
                        .example("mod(-7, 3)", "-1")
                        .is((a, b, c) -> remainder((Long) a, (Long) b)),
                number("mod", DECIMAL)
                        .takes("divisor", DECIMAL)
                        .help("What is left of a division; it has the sign of the number.")
                        .errors("The divisor is zero.")
                        .example("mod(7.5, 2)", "1.5")
                        .is((a, b, c) -> remainder((BigDecimal) a, (BigDecimal) b)),
                Definition.of(Topic.NUMBERS, "parse_decimal")
                        .takes("text", TEXT)
                        .takes("locale", TEXT)
                        .gives(DECIMAL)
                        .help(
                                "The number in a text that is written as in a locale: de, at, it, es, nl, da, fr, ch or en.")
                        .errors("The text is no number, or the locale is not known.")
                        .example("parse_decimal('1.234,50', 'de')", "1234.50")
                        .prepared((locale, none) -> parser(DECIMAL, locale)),
                Definition.of(Topic.NUMBERS, "parse_integer")
                        .takes("text", TEXT)
                        .takes("locale", TEXT)
                        .gives(INTEGER)
                        .help(
                                "The integer in a text that is written as in a locale: de, at, it, es, nl, da, fr, ch or en.")
                        .errors("The text is no integer, or the locale is not known.")
                        .example("parse_integer('12.500', 'at')", "12500")
                        .prepared((locale, none) -> parser(INTEGER, locale)),
                number("round", DECIMAL)
                        .perhaps("digits", INTEGER)
                        .help("The number rounded half away from zero, to a number of decimal digits (0 unless given).")
                        .errors("The digits are outside of -1000 to 1000.")
                        .example("round(18.345, 2)", "18.35")
                        .is((a, b, c) -> round((BigDecimal) a, (Long) b, RoundingMode.HALF_UP)),
                number("round_even", DECIMAL)
                        .perhaps("digits", INTEGER)
                        .help(
                                "The number rounded half to the even digit, to a number of decimal digits (0 unless given).")
                        .errors("The digits are outside of -1000 to 1000.")
                        .example("round_even(18.345, 2)", "18.34")
                        .is((a, b, c) -> round((BigDecimal) a, (Long) b, RoundingMode.HALF_EVEN)),
                number("sign", DECIMAL)
                        .gives(INTEGER)
                        .help("-1 below zero, 0 for zero, 1 above.")
                        .example("sign(-2.5)", "-1")
                        .is((a, b, c) -> (long) ((BigDecimal) a).signum()));
    }

    /** Computes with integers that may leave 64 bits. */
    private interface Exact {
        Object compute();
    }

    private static Object exact(Exact computation) {
        try {
            return computation.compute();
        } catch (ArithmeticException e) {
            throw Values.outOfRange();
        }
    }

    private static Object remainder(Long number, @Nullable Long divisor) {
        if (divisor == null || divisor == 0) {
            throw Values.divisionByZero();
        }
        return number % divisor;
    }

    private static Object remainder(BigDecimal number, @Nullable BigDecimal divisor) {
        if (divisor == null || divisor.signum() == 0) {
            throw Values.divisionByZero();
        }
        return number.remainder(divisor).setScale(Math.max(number.scale(), divisor.scale()));
    }

    private static Body parser(Kind kind, @Nullable Object locale) {
        if (locale instanceof String constant) {
            TextParser parser = parser(kind, constant);
            return (a, b, c) -> parser.parse((String) a);
        }
        return (a, b, c) -> parser(kind, String.valueOf(b)).parse((String) a);
    }

    private static TextParser parser(Kind kind, String locale) {
        if (!TextParser.LOCALES.contains(locale)) {
            throw new ValueProblem(
                    ProblemCode.VALUE_MALFORMED,
                    "'" + Values.shortened(locale) + "' is none of the locales "
                            + TextParser.LOCALES.stream().sorted().toList() + ".");
        }
        return TextParser.of(kind, null, locale);
    }

    private static BigDecimal round(BigDecimal number, @Nullable Long count, RoundingMode mode) {
        long digits = count == null ? 0 : count;
        if (Math.abs(digits) > MOST_DIGITS) {
            throw new ValueProblem(ProblemCode.OUT_OF_RANGE, "round takes -1000 to 1000 digits.");
        }
        BigDecimal rounded = number.setScale((int) digits, mode);
        return rounded.scale() < 0 ? rounded.setScale(0, RoundingMode.UNNECESSARY) : rounded;
    }
}

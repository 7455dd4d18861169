package dev.nachlauf.core.formula;

import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.LocalDateTime;

/** What cast does: which kinds turn into which, and how. */
final class Casts {
    private Casts() {}

    static boolean allowed(Kind from, Kind to) {
        if (from == to || from == Kind.TEXT || to == Kind.TEXT) {
            return true;
        }
        return from.isNumber() && to.isNumber()
                || from == Kind.DATE && to == Kind.TIMESTAMP
                || from == Kind.TIMESTAMP && (to == Kind.DATE || to == Kind.TIME);
    }

    /** A cast to varchar(n) cuts, as in ISO/IEC 9075; a decimal of a precision rounds and refuses what is too large. */
    static Object cast(Object value, Checked.Cast cast) {
        return switch (cast.kind()) {
            case TEXT -> cut(String.valueOf(Values.text(value)), cast.length());
            case INTEGER -> value instanceof BigDecimal number ? Values.integer(number) : parsed(value, Kind.INTEGER);
            case DECIMAL -> sized(value instanceof String ? parsed(value, Kind.DECIMAL) : value, cast);
            case DATE -> value instanceof LocalDateTime stamp ? stamp.toLocalDate() : parsed(value, Kind.DATE);
            case TIME -> value instanceof LocalDateTime stamp ? stamp.toLocalTime() : parsed(value, Kind.TIME);
            case TIMESTAMP -> value instanceof LocalDate date ? date.atStartOfDay() : parsed(value, Kind.TIMESTAMP);
            case BOOLEAN -> parsed(value, Kind.BOOLEAN);
        };
    }

    private static Object parsed(Object value, Kind kind) {
        return value instanceof String text ? TextParser.of(kind, null, null).parse(text) : value;
    }

    private static String cut(String text, int length) {
        return length < 0 || text.codePointCount(0, text.length()) <= length
                ? text
                : text.substring(0, text.offsetByCodePoints(0, length));
    }

    private static BigDecimal sized(Object number, Checked.Cast cast) {
        BigDecimal value = Values.decimal(number);
        if (cast.precision() < 0) {
            return value;
        }
        BigDecimal rounded = value.setScale(cast.scale(), RoundingMode.HALF_UP);
        if (rounded.signum() != 0 && rounded.precision() - rounded.scale() > cast.precision() - cast.scale()) {
            throw new ValueProblem(
                    ProblemCode.OUT_OF_RANGE,
                    "The number doesn't fit into decimal(" + cast.precision() + ", " + cast.scale() + ").");
        }
        return rounded;
    }
}

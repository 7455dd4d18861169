package dev.nachlauf.core.value;

import dev.nachlauf.core.problem.ProblemCode;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Canonical text, order, equality and division of values. */
public final class Values {
    /** The longest text that a formula makes, in UTF-16 units. */
    public static final int LONGEST_TEXT = 1_000_000;

    /** The most digits of a decimal that a formula makes, and the largest scale. */
    public static final int MOST_DIGITS = 2_000;

    /** The most steps that one value may cost, in the order of a second: no formula or pattern can hang a run. */
    public static final long MOST_STEPS = 100_000_000;

    private static final int SHOWN = 60;
    private static final int LARGEST_SCALE = 1000;
    private static final int SIGNIFICANT_DIGITS = 16;
    private static final DateTimeFormatter SECONDS = DateTimeFormatter.ofPattern("HH:mm:ss");
    private static final BigDecimal LARGEST_INTEGER = BigDecimal.valueOf(Long.MAX_VALUE);
    private static final BigDecimal SMALLEST_INTEGER = BigDecimal.valueOf(Long.MIN_VALUE);

    private Values() {}

    /** The canonical text: decimals plain with their scale, dates and times as in ISO 8601, null for null. */
    public static @Nullable String text(@Nullable Object value) {
        return value instanceof String text ? text : value == null ? null : printed(value);
    }

    private static String printed(Object value) {
        return switch (value) {
            case BigDecimal number -> number.toPlainString();
            case LocalTime time -> time(time);
            case LocalDateTime stamp -> stamp.toLocalDate() + " " + time(stamp.toLocalTime());
            default -> value.toString();
        };
    }

    private static String time(LocalTime time) {
        String seconds = SECONDS.format(time);
        if (time.getNano() == 0) {
            return seconds;
        }
        String micros = String.format(Locale.ROOT, "%06d", time.getNano() / 1000);
        return seconds + "." + micros.replaceAll("0+$", "");
    }

    /** The text for messages: at most 60 characters. */
    public static String shortened(String text) {
        return text.length() <= SHOWN ? text : text.substring(0, SHOWN) + "…";
    }

    /** Equality as a target sees it: null equals null, decimals ignore their scale, integers equal decimals. */
    public static boolean same(@Nullable Object a, @Nullable Object b) {
        if (a == null || b == null) {
            return a == b;
        }
        if (a instanceof String || a instanceof Long && b instanceof Long) {
            return a.equals(b);
        }
        return a instanceof Number && b instanceof Number ? compare(a, b) == 0 : Objects.equals(a, b);
    }

    /** Order of two values of the same kind, or of two numbers; text by code point. */
    @SuppressWarnings("unchecked")
    public static int compare(Object a, Object b) {
        if (a instanceof String left && b instanceof String right) {
            return compareText(left, right);
        }
        if (a instanceof Long left && b instanceof Long right) {
            return Long.compare(left, right);
        }
        if (a instanceof Number && b instanceof Number) {
            return decimal(a).compareTo(decimal(b));
        }
        return ((Comparable<Object>) a).compareTo(b);
    }

    /** UTF-16 order differs from code point order only where surrogates meet characters above them. */
    private static int compareText(String a, String b) {
        int shared = Math.min(a.length(), b.length());
        for (int i = 0; i < shared; i++) {
            char left = a.charAt(i);
            char right = b.charAt(i);
            if (left != right) {
                boolean surrogates = Character.isSurrogate(left) && Character.isSurrogate(right);
                return surrogates || !Character.isSurrogate(left) && !Character.isSurrogate(right)
                        ? Character.compare(left, right)
                        : Character.isSurrogate(left) ? 1 : -1;
            }
        }
        return Integer.compare(a.length(), b.length());
    }

    /** A number as a decimal. */
    public static BigDecimal decimal(Object number) {
        return number instanceof Long whole ? BigDecimal.valueOf(whole) : (BigDecimal) number;
    }

    /** A decimal as an integer, rounded half away from zero. */
    public static Long integer(BigDecimal number) {
        BigDecimal rounded = number.setScale(0, RoundingMode.HALF_UP);
        if (rounded.compareTo(LARGEST_INTEGER) > 0 || rounded.compareTo(SMALLEST_INTEGER) < 0) {
            throw outOfRange();
        }
        return rounded.longValue();
    }

    /** The problem of a number that 64 bits can't hold. */
    public static ValueProblem outOfRange() {
        return new ValueProblem(ProblemCode.OUT_OF_RANGE, "The result doesn't fit into an integer of 64 bits.");
    }

    /** The problem of a division by zero. */
    public static ValueProblem divisionByZero() {
        return new ValueProblem(ProblemCode.DIVISION_BY_ZERO, "Division by zero.");
    }

    /** Refuses a text that would be too long: steps that double a text must not fill the memory. */
    public static void requireShort(long length) {
        if (length > LONGEST_TEXT) {
            throw new ValueProblem(ProblemCode.OUT_OF_RANGE, "The text would be longer than 1,000,000 characters.");
        }
    }

    /** Refuses a value that would cost too much; see {@link #MOST_STEPS}. */
    public static void requireCheap(long steps) {
        if (steps > MOST_STEPS) {
            throw tooCostly();
        }
    }

    /** The problem of a value that would cost more than {@link #MOST_STEPS}. */
    public static ValueProblem tooCostly() {
        return new ValueProblem(
                ProblemCode.OUT_OF_RANGE, "The value would take more than 100,000,000 steps to compute.");
    }

    /** A decimal that is not too large; see {@link #MOST_DIGITS}. */
    public static BigDecimal bounded(BigDecimal number) {
        if (number.precision() > MOST_DIGITS || number.scale() > MOST_DIGITS) {
            throw new ValueProblem(ProblemCode.OUT_OF_RANGE, "The number would have more than 2,000 digits.");
        }
        return number;
    }

    /** A date of the years 1 to 9999. */
    public static LocalDate inCalendar(LocalDate date) {
        if (date.getYear() < 1 || date.getYear() > 9999) {
            throw outsideCalendar();
        }
        return date;
    }

    /** The problem of a date outside of the years 1 to 9999. */
    public static ValueProblem outsideCalendar() {
        return new ValueProblem(ProblemCode.OUT_OF_RANGE, "The date lies outside of the years 1 to 9999.");
    }

    /**
     * The quotient with the scale that PostgreSQL chooses: at least 16 significant digits and never fewer than either
     * operand has, at most 1,000 digits, rounded half away from zero.
     */
    public static BigDecimal divide(BigDecimal dividend, BigDecimal divisor) {
        if (divisor.signum() == 0) {
            throw divisionByZero();
        }
        int weight = base10000Weight(dividend) - base10000Weight(divisor);
        if (firstBase10000Digit(dividend) <= firstBase10000Digit(divisor)) {
            weight--;
        }
        int scale = SIGNIFICANT_DIGITS - weight * 4;
        scale = Math.max(scale, Math.max(Math.max(dividend.scale(), divisor.scale()), 0));
        return dividend.divide(divisor, Math.min(scale, LARGEST_SCALE), RoundingMode.HALF_UP);
    }

    /** PostgreSQL keeps numbers as digits to base 10,000; its weight is the exponent of the first one. */
    private static int base10000Weight(BigDecimal number) {
        return number.signum() == 0 ? 0 : Math.floorDiv(number.precision() - number.scale() - 1, 4);
    }

    private static int firstBase10000Digit(BigDecimal number) {
        if (number.signum() == 0) {
            return 0;
        }
        return number.abs()
                .scaleByPowerOfTen(-4 * base10000Weight(number))
                .setScale(0, RoundingMode.DOWN)
                .intValue();
    }

    /** The words for a value in a message. */
    public static String kindOf(Object value) {
        return switch (value) {
            case String ignored -> "text";
            case Long ignored -> "integer";
            case BigDecimal ignored -> "decimal";
            case Boolean ignored -> "boolean";
            case LocalDate ignored -> "date";
            case LocalTime ignored -> "time";
            case LocalDateTime ignored -> "timestamp";
            default -> value.getClass().getSimpleName();
        };
    }
}

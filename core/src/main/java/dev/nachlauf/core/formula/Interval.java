package dev.nachlauf.core.formula;

import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A stretch of time in one unit, as in {@code interval '3' month}. It is an operand of {@code +} and {@code -}, never a
 * value.
 *
 * @param amount so many units; for seconds so many microseconds
 */
record Interval(Unit unit, long amount) {
    private static final int LONGEST = 20;
    private static final int MICRO_DIGITS = 6;

    enum Unit {
        YEAR(ChronoUnit.YEARS),
        MONTH(ChronoUnit.MONTHS),
        DAY(ChronoUnit.DAYS),
        HOUR(ChronoUnit.HOURS),
        MINUTE(ChronoUnit.MINUTES),
        SECOND(ChronoUnit.MICROS);

        private final ChronoUnit step;

        Unit(ChronoUnit step) {
            this.step = step;
        }

        static Optional<Unit> of(String word) {
            return Arrays.stream(values())
                    .filter(unit -> unit.word().equalsIgnoreCase(word))
                    .findFirst();
        }

        static List<String> words() {
            return Arrays.stream(values()).map(Unit::word).toList();
        }

        String word() {
            return name().toLowerCase(Locale.ROOT);
        }

        /** Whether it is counted in days, so that a date can be moved by it. */
        boolean ofDays() {
            return this == YEAR || this == MONTH || this == DAY;
        }
    }

    /** The interval; empty where the text is no whole number (seconds may have six decimals). */
    static Optional<Interval> of(Unit unit, String text) {
        String stripped = text.strip();
        boolean decimal = unit == Unit.SECOND;
        if (stripped.length() > LONGEST || !stripped.matches(decimal ? "[+-]?\\d+(\\.\\d{1,6})?" : "[+-]?\\d+")) {
            return Optional.empty();
        }
        BigDecimal amount = new BigDecimal(stripped).movePointRight(decimal ? MICRO_DIGITS : 0);
        return amount.abs().compareTo(BigDecimal.valueOf(Long.MAX_VALUE)) > 0
                ? Optional.empty()
                : Optional.of(new Interval(unit, amount.longValueExact()));
    }

    Object addTo(Object value, boolean plus) {
        try {
            long steps = plus ? amount : -amount;
            return switch (value) {
                case LocalDate date -> Values.inCalendar(date.plus(steps, unit.step));
                case LocalDateTime stamp -> {
                    LocalDateTime moved = stamp.plus(steps, unit.step);
                    Values.inCalendar(moved.toLocalDate());
                    yield moved;
                }
                case LocalTime time -> time.plus(steps, unit.step);
                default -> throw new IllegalStateException("an interval can't be added to " + value.getClass());
            };
        } catch (DateTimeException | ArithmeticException e) {
            throw Values.outsideCalendar();
        }
    }
}

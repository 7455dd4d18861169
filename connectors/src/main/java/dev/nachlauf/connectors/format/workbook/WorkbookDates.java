package dev.nachlauf.connectors.format.workbook;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;

/** Days since a workbook's first day, with the day's fraction, as moments (ECMA-376, 18.17.4). */
final class WorkbookDates {
    private static final LocalDate FIRST = LocalDate.of(1899, 12, 31);
    private static final LocalDate FIRST_OF_1904 = LocalDate.of(1904, 1, 1);
    /** The serial number of 29 February 1900, a day that was never and that the numbering counts nevertheless. */
    private static final long NEVER = 60;

    private static final BigDecimal MILLIS_OF_DAY = BigDecimal.valueOf(86_400_000);
    private static final long LAST = 2_958_466;

    private WorkbookDates() {}

    static LocalDateTime of(BigDecimal serial, boolean from1904) {
        BigDecimal days = serial.setScale(0, RoundingMode.DOWN);
        if (days.compareTo(BigDecimal.valueOf(LAST)) > 0) {
            throw new IllegalArgumentException("a date behind the year 9999");
        }
        long whole = days.longValueExact();
        long millis = serial.subtract(days)
                .multiply(MILLIS_OF_DAY)
                .setScale(0, RoundingMode.HALF_UP)
                .longValueExact();
        LocalDate date = from1904 ? FIRST_OF_1904.plusDays(whole) : FIRST.plusDays(whole > NEVER ? whole - 1 : whole);
        return date.atStartOfDay().plusNanos(millis * 1_000_000);
    }

    /** A moment as the number that stands for it. */
    static BigDecimal serial(LocalDateTime moment, boolean from1904) {
        long days = ChronoUnit.DAYS.between(from1904 ? FIRST_OF_1904 : FIRST, moment.toLocalDate());
        long whole = from1904 || days < NEVER ? days : days + 1;
        return BigDecimal.valueOf(whole).add(fraction(moment.toLocalTime()));
    }

    /** A time as a part of a day. */
    static BigDecimal fraction(LocalTime time) {
        return BigDecimal.valueOf(time.toNanoOfDay() / 1_000_000).divide(MILLIS_OF_DAY, 11, RoundingMode.HALF_UP);
    }
}

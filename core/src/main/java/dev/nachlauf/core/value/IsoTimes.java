package dev.nachlauf.core.value;

import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.temporal.ChronoField;
import java.util.Locale;

/** Times and timestamps as in ISO 8601, with a T or a space between, to the microsecond. */
final class IsoTimes {
    private static final int MICRO_DIGITS = 6;
    private static final DateTimeFormatter CLOCK = new DateTimeFormatterBuilder()
            .appendPattern("HH:mm")
            .optionalStart()
            .appendPattern(":ss")
            .appendFraction(ChronoField.NANO_OF_SECOND, 0, MICRO_DIGITS, true)
            .optionalEnd()
            .toFormatter(Locale.ROOT);

    static final TextParser TIME = TextParser.temporal(CLOCK, LocalTime::parse, "a time like 07:30:00");
    static final TextParser TIMESTAMP = TextParser.temporal(
            new DateTimeFormatterBuilder()
                    .appendPattern("uuuu-MM-dd[' ']['T']")
                    .append(CLOCK)
                    .toFormatter(Locale.ROOT),
            LocalDateTime::parse,
            "a timestamp like 2026-05-01 07:30:00");

    private IsoTimes() {}
}

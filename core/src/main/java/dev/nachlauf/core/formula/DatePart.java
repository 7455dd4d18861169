package dev.nachlauf.core.formula;

import dev.nachlauf.core.value.Kind;
import java.math.BigDecimal;
import java.time.temporal.ChronoField;
import java.time.temporal.IsoFields;
import java.time.temporal.TemporalAccessor;
import java.time.temporal.TemporalField;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What {@code extract} takes out of dates, times and timestamps. Weeks are those of ISO 8601. */
enum DatePart {
    YEAR(ChronoField.YEAR),
    ISOYEAR(IsoFields.WEEK_BASED_YEAR),
    QUARTER(IsoFields.QUARTER_OF_YEAR),
    MONTH(ChronoField.MONTH_OF_YEAR),
    WEEK(IsoFields.WEEK_OF_WEEK_BASED_YEAR),
    DAY(ChronoField.DAY_OF_MONTH),
    DOY(ChronoField.DAY_OF_YEAR),
    DOW(ChronoField.DAY_OF_WEEK),
    ISODOW(ChronoField.DAY_OF_WEEK),
    HOUR(ChronoField.HOUR_OF_DAY),
    MINUTE(ChronoField.MINUTE_OF_HOUR),
    SECOND(ChronoField.SECOND_OF_MINUTE);

    private static final int DAYS_OF_WEEK = 7;
    private static final long MICROS_OF_SECOND = 1_000_000;
    private static final int MICRO_DIGITS = 6;

    private final TemporalField field;

    DatePart(TemporalField field) {
        this.field = field;
    }

    static Optional<DatePart> of(String word) {
        return Arrays.stream(values())
                .filter(part -> part.word().equalsIgnoreCase(word))
                .findFirst();
    }

    static List<String> words() {
        return Arrays.stream(values()).map(DatePart::word).toList();
    }

    String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    Kind kind() {
        return this == SECOND ? Kind.DECIMAL : Kind.INTEGER;
    }

    /** Whether values of a kind have this part. */
    boolean isPartOf(Kind kind) {
        boolean ofTime = this == HOUR || this == MINUTE || this == SECOND;
        return switch (kind) {
            case DATE -> !ofTime;
            case TIME -> ofTime;
            case TIMESTAMP -> true;
            case TEXT, INTEGER, DECIMAL, BOOLEAN -> false;
        };
    }

    Object of(TemporalAccessor value) {
        long number = value.getLong(field);
        if (this == SECOND) {
            long micros = number * MICROS_OF_SECOND + value.getLong(ChronoField.MICRO_OF_SECOND);
            return BigDecimal.valueOf(micros, MICRO_DIGITS);
        }
        return this == DOW ? number % DAYS_OF_WEEK : number;
    }
}

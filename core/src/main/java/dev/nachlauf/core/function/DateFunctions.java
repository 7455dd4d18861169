package dev.nachlauf.core.function;

import static dev.nachlauf.core.value.Kind.DATE;
import static dev.nachlauf.core.value.Kind.INTEGER;
import static dev.nachlauf.core.value.Kind.TEXT;
import static dev.nachlauf.core.value.Kind.TIME;
import static dev.nachlauf.core.value.Kind.TIMESTAMP;

import dev.nachlauf.core.function.Function.Body;
import dev.nachlauf.core.function.Function.Topic;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAccessor;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** The functions on dates and times. Years go from 1 to 9999. */
final class DateFunctions {
    private static final int LONGEST_PATTERN = 100;
    private static final String MALFORMED = "The text is not written so, or the pattern is malformed.";

    private DateFunctions() {}

    private static Definition define(String name) {
        return Definition.of(Topic.DATES, name);
    }

    static List<Function> all() {
        return List.of(
                define("add_months")
                        .takes("date", DATE)
                        .takes("months", INTEGER)
                        .gives(DATE)
                        .help("The date so many months later, or earlier; the day gives way to the month's last.")
                        .errors("The result lies outside of the years 1 to 9999.")
                        .example("add_months(date '2026-01-31', 1)", "2026-02-28")
                        .is((a, b, c) -> addMonths((LocalDate) a, number(b))),
                define("first_of_month")
                        .takes("date", DATE)
                        .gives(DATE)
                        .help("The first day of the date's month.")
                        .example("first_of_month(date '2026-05-17')", "2026-05-01")
                        .is((a, b, c) -> ((LocalDate) a).withDayOfMonth(1)),
                print("format_date", DATE, "date")
                        .example("format_date(date '2026-05-01', 'dd.MM.yyyy')", "01.05.2026")
                        .prepared((pattern, none) -> printer(pattern)),
                print("format_time", TIME, "time")
                        .example("format_time(time '07:30:00', 'HH.mm')", "07.30")
                        .prepared((pattern, none) -> printer(pattern)),
                print("format_timestamp", TIMESTAMP, "timestamp")
                        .example("format_timestamp(timestamp '2026-05-01 07:30:00', 'yyyyMMddHHmm')", "202605010730")
                        .prepared((pattern, none) -> printer(pattern)),
                define("last_of_month")
                        .takes("date", DATE)
                        .gives(DATE)
                        .help("The last day of the date's month.")
                        .example("last_of_month(date '2026-02-01')", "2026-02-28")
                        .is((a, b, c) -> ((LocalDate) a).withDayOfMonth(((LocalDate) a).lengthOfMonth())),
                define("make_date")
                        .takes("year", INTEGER)
                        .takes("month", INTEGER)
                        .takes("day", INTEGER)
                        .gives(DATE)
                        .help("The date of a year, a month and a day.")
                        .errors("The calendar has no such day.")
                        .example("make_date(2026, 5, 1)", "2026-05-01")
                        .is((a, b, c) -> makeDate((Long) a, number(b), number(c))),
                parse("parse_date", DATE)
                        .example("parse_date('1.5.2026', 'd.M.yyyy')", "2026-05-01")
                        .prepared((pattern, none) -> parser(DATE, pattern)),
                parse("parse_time", TIME)
                        .example("parse_time('7.30', 'H.mm')", "07:30:00")
                        .prepared((pattern, none) -> parser(TIME, pattern)),
                parse("parse_timestamp", TIMESTAMP)
                        .example("parse_timestamp('01.05.2026 07:30', 'dd.MM.yyyy HH:mm')", "2026-05-01 07:30:00")
                        .prepared((pattern, none) -> parser(TIMESTAMP, pattern)),
                define("seconds_between")
                        .takes("from", TIMESTAMP)
                        .takes("to", TIMESTAMP)
                        .gives(INTEGER)
                        .help("The whole seconds from one timestamp to another; negative where the second is earlier.")
                        .example(
                                "seconds_between(timestamp '2026-05-01 07:30:00', timestamp '2026-05-01 08:00:30')",
                                "1830")
                        .is((a, b, c) -> ((LocalDateTime) a).until((LocalDateTime) b, ChronoUnit.SECONDS)),
                define("years_between")
                        .takes("from", DATE)
                        .takes("to", DATE)
                        .gives(INTEGER)
                        .help("The whole years from one date to another: an age.")
                        .example("years_between(date '1984-05-02', date '2026-05-01')", "41")
                        .is((a, b, c) -> ((LocalDate) a).until((LocalDate) b, ChronoUnit.YEARS)));
    }

    private static Definition parse(String name, Kind kind) {
        return define(name)
                .takes("text", TEXT)
                .takes("pattern", TEXT)
                .gives(kind)
                .help("The " + kind.word() + " in a text that is written as the pattern says, such as "
                        + (kind == TIME ? "HH:mm" : kind == DATE ? "dd.MM.yyyy" : "dd.MM.yyyy HH:mm") + ".")
                .errors(MALFORMED);
    }

    private static Definition print(String name, Kind kind, String word) {
        return define(name)
                .takes(word, kind)
                .takes("pattern", TEXT)
                .gives(TEXT)
                .help("The " + word + " written as the pattern says; names of days and months are English.")
                .errors("The pattern is malformed, or asks for what a " + word + " has not.");
    }

    private static long number(@Nullable Object argument) {
        return argument == null ? 0 : (Long) argument;
    }

    private static LocalDate addMonths(LocalDate date, long months) {
        try {
            return Values.inCalendar(date.plusMonths(months));
        } catch (DateTimeException | ArithmeticException e) {
            throw Values.outsideCalendar();
        }
    }

    private static LocalDate makeDate(long year, long month, long day) {
        try {
            return Values.inCalendar(LocalDate.of(Math.toIntExact(year), Math.toIntExact(month), Math.toIntExact(day)));
        } catch (DateTimeException | ArithmeticException e) {
            throw new ValueProblem(
                    ProblemCode.VALUE_MALFORMED, "The calendar has no day " + year + "-" + month + "-" + day + ".");
        }
    }

    private static Body parser(Kind kind, @Nullable Object pattern) {
        if (pattern instanceof String constant) {
            TextParser parser = parser(kind, constant);
            return (a, b, c) -> parser.parse((String) a);
        }
        return (a, b, c) -> parser(kind, String.valueOf(b)).parse((String) a);
    }

    private static TextParser parser(Kind kind, String pattern) {
        try {
            return TextParser.of(kind, bounded(pattern), null);
        } catch (IllegalArgumentException e) {
            throw malformed(pattern);
        }
    }

    private static Body printer(@Nullable Object pattern) {
        if (pattern instanceof String constant) {
            DateTimeFormatter formatter = formatter(constant);
            return (a, b, c) -> print(formatter, a, constant);
        }
        return (a, b, c) -> print(formatter(String.valueOf(b)), a, String.valueOf(b));
    }

    private static String print(DateTimeFormatter formatter, Object value, String pattern) {
        try {
            return formatter.format((TemporalAccessor) value);
        } catch (DateTimeException e) {
            throw malformed(pattern);
        }
    }

    private static DateTimeFormatter formatter(String pattern) {
        try {
            return DateTimeFormatter.ofPattern(bounded(pattern), Locale.ENGLISH);
        } catch (IllegalArgumentException e) {
            throw malformed(pattern);
        }
    }

    private static String bounded(String pattern) {
        if (pattern.length() > LONGEST_PATTERN) {
            throw new ValueProblem(
                    ProblemCode.OUT_OF_RANGE, "A pattern of dates has at most " + LONGEST_PATTERN + " characters.");
        }
        return pattern;
    }

    private static ValueProblem malformed(String pattern) {
        return new ValueProblem(
                ProblemCode.VALUE_MALFORMED,
                "'" + Values.shortened(pattern) + "' is no pattern for this; one is dd.MM.yyyy or HH:mm.");
    }
}

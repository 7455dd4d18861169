package dev.nachlauf.core.value;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.format.DateTimeParseException;
import java.time.format.ResolverStyle;
import java.util.Locale;
import java.util.regex.Pattern;
import java.util.stream.IntStream;

/**
 * Dates from text. Patterns of fixed digits (day, month, year of four) are read by hand, which is about three times as
 * fast as the library's formatter; all others go through it, strictly: 31 February is refused, not moved.
 */
final class DateText implements TextParser {
    static final DateText ISO = new DateText("yyyy-MM-dd");
    private static final Pattern FIXED =
            Pattern.compile("(?=.*dd)(?=.*MM)(?=.*[yu]{4})(?:dd|MM|yyyy|uuuu|[^A-Za-z'\\[\\]])+");

    private final String pattern;
    private final int[] marks;
    private final int day;
    private final int month;
    private final int year;

    private DateText(String pattern) {
        this.pattern = pattern.replace('u', 'y');
        this.marks = IntStream.range(0, pattern.length())
                .filter(i -> "dMy".indexOf(this.pattern.charAt(i)) < 0)
                .toArray();
        this.day = this.pattern.indexOf("dd");
        this.month = this.pattern.indexOf("MM");
        this.year = this.pattern.indexOf("yyyy");
    }

    static TextParser of(String pattern) {
        if (FIXED.matcher(pattern).matches()
                && pattern.length() == pattern.replaceAll("dd.*dd|MM.*MM", "").length()) {
            return new DateText(pattern);
        }
        // names of months are English ones, in any case
        DateTimeFormatter formatter = new DateTimeFormatterBuilder()
                .parseCaseInsensitive()
                .appendPattern(pattern.replace('y', 'u'))
                .toFormatter(Locale.ENGLISH)
                .withResolverStyle(ResolverStyle.STRICT);
        return text -> {
            try {
                return LocalDate.parse(text.strip(), formatter);
            } catch (DateTimeParseException e) {
                throw ValueProblem.malformed(text, "a date like " + pattern);
            }
        };
    }

    @Override
    public Object parse(String text) {
        String stripped = text.strip();
        if (stripped.length() == pattern.length() && marksFit(stripped)) {
            int years = digits(stripped, year, 4);
            int months = digits(stripped, month, 2);
            int days = digits(stripped, day, 2);
            if (years >= 0 && months >= 0 && days >= 0) {
                return date(text, years, months, days);
            }
        }
        throw ValueProblem.malformed(text, "a date like " + pattern);
    }

    private static LocalDate date(String text, int year, int month, int day) {
        try {
            return LocalDate.of(year, month, day);
        } catch (DateTimeException e) {
            throw ValueProblem.malformed(text, "a date of the calendar");
        }
    }

    private boolean marksFit(String text) {
        for (int at : marks) {
            if (text.charAt(at) != pattern.charAt(at)) {
                return false;
            }
        }
        return true;
    }

    /** The number that stands there; -1 where something else than a digit does. */
    private static int digits(String text, int from, int count) {
        int value = 0;
        for (int i = from; i < from + count; i++) {
            int digit = text.charAt(i) - '0';
            if (digit < 0 || digit > 9) {
                return -1;
            }
            value = value * 10 + digit;
        }
        return value;
    }
}

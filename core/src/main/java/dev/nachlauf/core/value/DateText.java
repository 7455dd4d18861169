package dev.nachlauf.core.value;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.time.format.ResolverStyle;
import java.util.Locale;
import java.util.regex.Pattern;

/**
 * Dates from text. Patterns of fixed digits (day, month, year of four) are read by hand, which is about three times as
 * fast as the library's formatter; all others go through it, strictly: 31 February is refused, not moved.
 */
final class DateText implements TextParser {
    static final DateText ISO = new DateText("yyyy-MM-dd");
    private static final Pattern FIXED =
            Pattern.compile("(?=.*dd)(?=.*MM)(?=.*[yu]{4})(?:dd|MM|yyyy|uuuu|[^A-Za-z'\\[\\]])+");

    private final String pattern;
    private final int day;
    private final int month;
    private final int year;

    private DateText(String pattern) {
        this.pattern = pattern.replace('u', 'y');
        this.day = this.pattern.indexOf("dd");
        this.month = this.pattern.indexOf("MM");
        this.year = this.pattern.indexOf("yyyy");
    }

    static TextParser of(String pattern) {
        if (FIXED.matcher(pattern).matches()
                && pattern.length() == pattern.replaceAll("dd.*dd|MM.*MM", "").length()) {
            return new DateText(pattern);
        }
        DateTimeFormatter formatter = DateTimeFormatter.ofPattern(pattern.replace('y', 'u'), Locale.ROOT)
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
            try {
                return LocalDate.of(digits(stripped, year, 4), digits(stripped, month, 2), digits(stripped, day, 2));
            } catch (DateTimeException e) {
                throw ValueProblem.malformed(text, "a date of the calendar");
            }
        }
        throw ValueProblem.malformed(text, "a date like " + pattern);
    }

    private boolean marksFit(String text) {
        for (int i = 0; i < pattern.length(); i++) {
            char expected = pattern.charAt(i);
            char found = text.charAt(i);
            boolean digit = expected == 'd' || expected == 'M' || expected == 'y';
            if (digit ? found < '0' || found > '9' : found != expected) {
                return false;
            }
        }
        return true;
    }

    private static int digits(String text, int from, int count) {
        int value = 0;
        for (int i = from; i < from + count; i++) {
            value = value * 10 + text.charAt(i) - '0';
        }
        return value;
    }
}

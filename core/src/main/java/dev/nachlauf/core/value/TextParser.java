package dev.nachlauf.core.value;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.time.format.ResolverStyle;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Reads values of one kind from text. */
@FunctionalInterface
public interface TextParser {
    /** Locales whose numbers have a decimal comma and grouping points. */
    Set<String> COMMA_LOCALES = Set.of("de", "at", "it", "es", "nl", "da");

    /** Locales that a field can name. */
    Set<String> LOCALES = Set.of("en", "de", "at", "it", "es", "nl", "da", "fr", "ch");

    /**
     * The value.
     *
     * @throws ValueProblem where the text is none
     */
    Object parse(String text);

    /** What an empty cell means; null for no value. */
    default @Nullable Object empty() {
        return null;
    }

    /**
     * The parser for a kind.
     *
     * @param pattern how dates and times are written, as in {@link DateTimeFormatter}, null for ISO 8601; how truths are, as in
     *     {@link TruthText}, null for true and false
     * @param locale how numbers are written, one of {@link #LOCALES}; null for digits with a decimal point
     * @throws IllegalArgumentException where the pattern is malformed
     */
    static TextParser of(Kind kind, @Nullable String pattern, @Nullable String locale) {
        return switch (kind) {
            case TEXT -> text -> text;
            case INTEGER -> locale == null ? NumberText::integer : NumberText.of(locale)::localInteger;
            case DECIMAL -> locale == null ? NumberText::decimal : NumberText.of(locale)::localDecimal;
            case BOOLEAN -> pattern == null ? TextParser::bool : TruthText.of(pattern);
            case DATE -> pattern == null ? DateText.ISO : DateText.of(pattern);
            case TIME -> pattern == null ? IsoTimes.TIME : temporal(pattern, LocalTime::parse, "a time");
            case TIMESTAMP ->
                pattern == null ? IsoTimes.TIMESTAMP : temporal(pattern, LocalDateTime::parse, "a timestamp");
        };
    }

    private static Object bool(String text) {
        return switch (text.strip().toLowerCase(Locale.ROOT)) {
            case "true" -> true;
            case "false" -> false;
            default -> throw ValueProblem.malformed(text, "true or false");
        };
    }

    /** What {@link LocalDate}, {@link LocalTime} and {@link LocalDateTime} have in common. */
    @FunctionalInterface
    interface Temporal {
        Object parse(CharSequence text, DateTimeFormatter formatter);
    }

    private static TextParser temporal(String pattern, Temporal parse, String what) {
        return temporal(
                DateTimeFormatter.ofPattern(pattern.replace("yyyy", "uuuu"), Locale.ROOT),
                parse,
                what + " like " + pattern);
    }

    /** A parser by a formatter; 31 February is refused, not moved. */
    static TextParser temporal(DateTimeFormatter lenient, Temporal parse, String what) {
        DateTimeFormatter formatter = lenient.withResolverStyle(ResolverStyle.STRICT);
        return text -> {
            try {
                return parse.parse(text.strip(), formatter);
            } catch (DateTimeParseException e) {
                throw ValueProblem.malformed(text, what);
            }
        };
    }
}

package dev.nachlauf.core.value;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import org.jspecify.annotations.Nullable;

/**
 * How the cells of a field are read.
 *
 * @param pattern how dates and times are written, null for ISO 8601; how truths are written, null for true and false
 * @param locale how numbers are written, one of {@link TextParser#LOCALES}; null for digits with a decimal point
 */
public record Reading(
        Kind kind, @Nullable String pattern, @Nullable String locale) {
    /** Text stays as it is. */
    public static final Reading TEXT = new Reading(Kind.TEXT, null, null);

    /** The parser for cells that are text. */
    public TextParser parser() {
        return TextParser.of(kind, pattern, locale);
    }

    /**
     * The value of a cell that isn't null. A typed cell is taken as it is where its kind fits without loss; as text it
     * has its canonical form.
     *
     * @throws ValueProblem where the cell is no value of this kind
     */
    public static Object read(Object cell, Kind kind, TextParser parser) {
        if (cell instanceof String text) {
            return parser.parse(text);
        }
        if (kind == Kind.BOOLEAN && !(cell instanceof Boolean)) {
            return parser.parse(String.valueOf(Values.text(cell)));
        }
        return kind.type().isInstance(cell) ? cell : converted(cell, kind);
    }

    /**
     * The value of a cell that may be null.
     *
     * @throws ValueProblem where the cell is no value of this kind
     */
    public static @Nullable Object readOrEmpty(@Nullable Object cell, Kind kind, TextParser parser) {
        return cell == null ? parser.empty() : read(cell, kind, parser);
    }

    private static Object converted(Object cell, Kind kind) {
        Object fitting = switch (kind) {
            case TEXT -> Values.text(cell);
            case DECIMAL -> cell instanceof Long whole ? BigDecimal.valueOf(whole) : null;
            case INTEGER -> cell instanceof BigDecimal number ? whole(number) : null;
            case TIMESTAMP -> cell instanceof LocalDate date ? date.atStartOfDay() : null;
            case DATE -> cell instanceof LocalDateTime stamp ? midnight(stamp) : null;
            case BOOLEAN, TIME -> null;
        };
        if (fitting == null) {
            throw ValueProblem.malformed(String.valueOf(Values.text(cell)), "of the kind " + kind.word());
        }
        return fitting;
    }

    private static @Nullable Object midnight(LocalDateTime stamp) {
        return stamp.toLocalTime().equals(LocalTime.MIDNIGHT) ? stamp.toLocalDate() : null;
    }

    private static @Nullable Object whole(BigDecimal number) {
        try {
            return number.longValueExact();
        } catch (ArithmeticException e) {
            return null;
        }
    }
}

package dev.nachlauf.connectors.format.workbook;

import java.math.BigDecimal;
import java.math.MathContext;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.regex.Pattern;

/** Numbers of cells as people see them in the sheet. */
final class CellNumbers {
    /** Spreadsheets reckon with binary fractions and show 15 digits: 0.1 + 0.2 is shown as 0.3. */
    private static final MathContext SHOWN_DIGITS = new MathContext(15);

    private static final Pattern LEADING_ZEROS = Pattern.compile("0{2,}");
    private static final Pattern NO_LETTERS = Pattern.compile("\"[^\"]*\"|\\\\.|_.|\\[[^\\]]*]");

    private CellNumbers() {}

    /** An integer where the number is whole, else an exact decimal of what is shown. */
    static Object value(BigDecimal number) {
        BigDecimal shown = number.precision() > SHOWN_DIGITS.getPrecision() && number.scale() > 0
                ? number.round(SHOWN_DIGITS)
                : number;
        BigDecimal plain = shown.stripTrailingZeros();
        if (plain.scale() <= 0 && plain.precision() - plain.scale() <= 18) {
            return plain.longValueExact();
        }
        return plain.scale() < 0 ? plain.setScale(0) : plain;
    }

    /** A number under a format: one that shows leading zeros is a code, not a number. */
    static Object value(BigDecimal number, String format) {
        Object value = value(number);
        if (value instanceof Long whole
                && whole >= 0
                && LEADING_ZEROS.matcher(format).matches()) {
            String digits = String.valueOf(whole);
            return "0".repeat(Math.max(0, format.length() - digits.length())) + digits;
        }
        return value;
    }

    /** What a format shows of a number. */
    enum Shows {
        NUMBER,
        DATE,
        TIME,
        BOTH
    }

    /** Letters of a format code (ECMA-376, 18.8.31) that stand for parts of a date or a time. */
    static Shows shows(String format) {
        if (format.equalsIgnoreCase("General")
                || format.equals("@")
                || format.contains("[h")
                || format.contains("[m")) {
            return Shows.NUMBER;
        }
        String letters = NO_LETTERS.matcher(format.split(";")[0]).replaceAll("").toLowerCase(java.util.Locale.ROOT);
        boolean hours = letters.indexOf('h') >= 0 || letters.indexOf('s') >= 0;
        boolean days = letters.indexOf('y') >= 0 || letters.indexOf('d') >= 0 || letters.indexOf('m') >= 0 && !hours;
        return days ? hours ? Shows.BOTH : Shows.DATE : hours ? Shows.TIME : Shows.NUMBER;
    }

    /** A moment as what its format shows of it. */
    static Object moment(LocalDateTime moment, Shows shows) {
        LocalDateTime rounded = moment.plusNanos(500_000).withNano(0);
        return switch (shows) {
            case DATE -> rounded.toLocalTime().equals(LocalTime.MIDNIGHT) ? rounded.toLocalDate() : rounded;
            case TIME -> rounded.toLocalTime();
            case BOTH, NUMBER -> rounded;
        };
    }
}

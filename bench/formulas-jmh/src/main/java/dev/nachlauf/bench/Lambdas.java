package dev.nachlauf.bench;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Locale;
import java.util.Map;

/** The eight formulas as one lambda each: the least that can be done, without a check of what is read. */
interface Lambdas {
    Object of(Object[] row);

    static Lambdas[] all(Map<String, String> categories) {
        return new Lambdas[] {
            row -> row[0] instanceof String text ? text.trim().toUpperCase(Locale.ROOT) : null,
            row -> row[1] instanceof String text ? date(text) : null,
            row -> row[2] instanceof String text ? decimal(text) : null,
            row -> "closed".equals(row[3]) ? "C" : "open".equals(row[3]) ? "O" : "?",
            row -> row[4] instanceof String first && row[5] instanceof String last
                    ? first.concat(" ").concat(last)
                    : null,
            row -> row[3] != null ? row[3] : row[6],
            row -> categories.get(String.valueOf(row[6])),
            row -> row[7] instanceof String text ? Long.valueOf(text.strip()) : null
        };
    }

    private static LocalDate date(String text) {
        return LocalDate.of(number(text, 6, 10), number(text, 3, 5), number(text, 0, 2));
    }

    private static int number(String text, int from, int to) {
        int value = 0;
        for (int i = from; i < to; i++) {
            value = value * 10 + text.charAt(i) - '0';
        }
        return value;
    }

    private static BigDecimal decimal(String text) {
        long value = 0;
        int scale = 0;
        boolean behind = false;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == ',') {
                behind = true;
            } else if (c != '.') {
                value = value * 10 + c - '0';
                scale += behind ? 1 : 0;
            }
        }
        return BigDecimal.valueOf(value, scale);
    }
}

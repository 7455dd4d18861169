package dev.nachlauf.bench;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;

/** The eight formulas as small closures composed by hand; what is read is checked, and null stays null. */
interface Composed {
    Object of(Object[] row);

    static Composed[] all(Map<String, String> categories) {
        return new Composed[] {
            each(each(slot(0), String::trim), text -> text.toUpperCase(Locale.ROOT)),
            each(slot(1), Composed::date),
            each(slot(2), Composed::decimal),
            choose(
                    equal(slot(3), constant("closed")),
                    constant("C"),
                    choose(equal(slot(3), constant("open")), constant("O"), constant("?"))),
            join(join(slot(4), constant(" ")), slot(5)),
            firstFilled(slot(3), slot(6)),
            each(slot(6), categories::get),
            each(slot(7), text -> Long.valueOf(text.strip()))
        };
    }

    private static Composed slot(int index) {
        return row -> row[index];
    }

    private static Composed constant(Object value) {
        return row -> value;
    }

    private static Composed each(Composed operand, Function<String, Object> function) {
        return row -> operand.of(row) instanceof String text ? function.apply(text) : null;
    }

    private static Composed equal(Composed left, Composed right) {
        return row -> {
            Object a = left.of(row);
            Object b = right.of(row);
            return a == null || b == null ? null : (Boolean) a.equals(b);
        };
    }

    private static Composed choose(Composed condition, Composed result, Composed otherwise) {
        return row -> Boolean.TRUE.equals(condition.of(row)) ? result.of(row) : otherwise.of(row);
    }

    private static Composed join(Composed left, Composed right) {
        return row ->
                left.of(row) instanceof String a && right.of(row) instanceof String b ? a.concat(b) : null;
    }

    private static Composed firstFilled(Composed first, Composed second) {
        return row -> {
            Object value = first.of(row);
            return value != null ? value : second.of(row);
        };
    }

    private static LocalDate date(String text) {
        if (text.length() != 10 || text.charAt(2) != '.' || text.charAt(5) != '.') {
            throw new DateTimeException(text);
        }
        return LocalDate.of(number(text, 6, 10), number(text, 3, 5), number(text, 0, 2));
    }

    private static int number(String text, int from, int to) {
        int value = 0;
        for (int i = from; i < to; i++) {
            value = value * 10 + digit(text.charAt(i));
        }
        return value;
    }

    private static int digit(char c) {
        if (c < '0' || c > '9') {
            throw new NumberFormatException();
        }
        return c - '0';
    }

    private static BigDecimal decimal(String text) {
        long value = 0;
        int scale = 0;
        boolean behind = false;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == ',' && !behind) {
                behind = true;
            } else if (c != '.' || behind) {
                value = value * 10 + digit(c);
                scale += behind ? 1 : 0;
            }
        }
        return BigDecimal.valueOf(value, scale);
    }
}

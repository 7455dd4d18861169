package dev.nachlauf.cli;

import java.io.PrintWriter;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.function.Function;
import java.util.function.ToLongFunction;
import org.jspecify.annotations.Nullable;

/** Prints what a command found: tables for people, JSON for scripts; never anything else on standard output. */
final class Output {
    /** How to print. */
    enum Form {
        TABLE,
        JSON
    }

    private final Form form;
    private final PrintWriter out;
    private final PrintWriter err;

    Output(Form form, PrintWriter out, PrintWriter err) {
        this.form = form;
        this.out = out;
        this.err = err;
    }

    boolean json() {
        return form == Form.JSON;
    }

    /** One thing: JSON as it is, or lines for people. */
    <T> void one(T value, Function<T, List<String>> lines) {
        if (json()) {
            out.println(ServiceClient.JSON.writeValueAsString(value));
        } else {
            lines.apply(value).forEach(line -> out.println(PlainText.forTerminal(line)));
        }
    }

    /** A list: JSON Lines, or a table for people. */
    <T> void list(List<T> values, String whenEmpty, List<Column<T>> columns) {
        if (json()) {
            values.forEach(value -> out.println(ServiceClient.JSON.writeValueAsString(value)));
        } else if (values.isEmpty()) {
            err.println(whenEmpty);
        } else {
            table(values, columns).forEach(line -> out.println(PlainText.forTerminal(line)));
        }
    }

    /** A text that is the same for people and scripts. */
    void text(String text) {
        out.print(PlainText.forTerminal(text));
        out.flush();
    }

    /** A remark for people; scripts don't see it on standard output. */
    void remark(String text) {
        err.println(PlainText.forTerminal(text));
    }

    /** A column of a table. */
    record Column<T>(String head, boolean number, boolean optional, Function<T, @Nullable Object> value) {
        static <T> Column<T> text(String head, Function<T, @Nullable Object> value) {
            return new Column<>(head, false, false, value);
        }

        static <T> Column<T> number(String head, Function<T, @Nullable Object> value) {
            return new Column<>(head, true, false, value);
        }

        /** The column, left out where it has nothing to say of any value. */
        Column<T> unlessEmpty() {
            return new Column<>(head, number, true, value);
        }

        private boolean isShown(List<T> values) {
            return !optional
                    || values.stream()
                            .anyMatch(one -> !String.valueOf(value.apply(one)).isEmpty());
        }

        /** A place that is counted from 1; nothing for what the source no longer has. */
        static <T> Column<T> place(String head, ToLongFunction<T> place) {
            return number(head, value -> place.applyAsLong(value) == 0 ? null : place.applyAsLong(value));
        }
    }

    static <T> List<String> table(List<T> values, List<Column<T>> all) {
        List<Column<T>> columns =
                all.stream().filter(column -> column.isShown(values)).toList();
        List<List<String>> rows = new ArrayList<>();
        rows.add(columns.stream().map(Column::head).toList());
        for (T value : values) {
            List<String> row = new ArrayList<>();
            for (Column<T> column : columns) {
                Object cell = column.value.apply(value);
                row.add(cell == null ? "" : printed(cell));
            }
            rows.add(row);
        }
        List<Integer> widths = new ArrayList<>(Collections.nCopies(columns.size(), 0));
        rows.forEach(row -> {
            for (int i = 0; i < row.size(); i++) {
                widths.set(i, Math.max(widths.get(i), width(row.get(i))));
            }
        });
        return rows.stream().map(row -> line(row, widths, columns)).toList();
    }

    private static String printed(Object cell) {
        return cell instanceof Number number && !(cell instanceof Double)
                ? number(number.longValue())
                : cell.toString().replaceAll("[\\r\\n\\t]", " ");
    }

    /** The day of a moment, in UTC. */
    static String day(Instant at) {
        return at.toString().substring(0, "2026-05-01".length());
    }

    /** A moment to the minute, in UTC; nothing where there is none. */
    static String minute(@Nullable Instant at) {
        return at == null
                ? ""
                : at.toString().substring(0, "2026-05-01T12:30".length()).replace('T', ' ');
    }

    static String number(long number) {
        return String.format(java.util.Locale.ROOT, "%,d", number);
    }

    /** A time for people: seconds, or minutes where there are many. */
    static String seconds(long seconds) {
        long minute = 60;
        return seconds < 100 ? seconds + " s" : Math.ceilDiv(seconds, minute) + " min";
    }

    private static <T> String line(List<String> row, List<Integer> widths, List<Column<T>> columns) {
        StringBuilder line = new StringBuilder();
        for (int i = 0; i < row.size(); i++) {
            String padding = " ".repeat(widths.get(i) - width(row.get(i)));
            line.append(i == 0 ? "" : "  ");
            line.append(columns.get(i).number ? padding + row.get(i) : row.get(i) + padding);
        }
        return line.toString().stripTrailing();
    }

    private static int width(String text) {
        return text.codePointCount(0, text.length());
    }
}

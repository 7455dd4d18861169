package dev.nachlauf.connectors.format.workbook;

import dev.nachlauf.connectors.format.heading.Heading;
import dev.nachlauf.connectors.format.heading.HeadingSearch;
import dev.nachlauf.connectors.format.heading.HeadingSearch.Line;
import dev.nachlauf.connectors.format.heading.SpanningSearch;
import dev.nachlauf.connectors.format.workbook.Sheets.CellError;
import dev.nachlauf.connectors.format.workbook.Sheets.Row;
import dev.nachlauf.connectors.format.workbook.Sheets.Rows;
import dev.nachlauf.connectors.format.workbook.Sheets.Sheet;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.system.FormatOptions;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Where the table of a sheet starts and what its columns are called.
 *
 * @param lastHeading the last row that belongs to the heading, or is passed over where there is none; 0 for neither
 */
record SheetTable(Sheet sheet, Heading heading, long lastHeading, Detected headerRow, Detected headerLines) {
    static final String SKIP_ROWS = "skip-rows";

    private static final int LOOKED_AT = 60;
    private static final int MOST_ROWS = 10_000;

    static SheetTable of(Sheets sheets, Sheet sheet, FormatOptions options) {
        int lines = options.integer(Heading.HEADER_LINES, 1, 1, 2);
        int stated = options.integer(Heading.HEADER_ROW, -1, 0, MOST_ROWS);
        List<Line> start = new ArrayList<>();
        try (Rows rows = sheets.open(sheet)) {
            for (Row row = rows.next(); row != null; row = rows.next()) {
                start.add(new Line((int) row.number(), texts(row)));
                if (start.size() >= LOOKED_AT && row.number() >= stated + lines) {
                    break;
                }
            }
        }
        Detected header = stated >= 0
                ? Detected.stated(Heading.HEADER_ROW, String.valueOf(stated))
                : lines == 2 ? firstOfTwo(start) : HeadingSearch.find(start);
        Optional<Detected> two =
                options.text(Heading.HEADER_LINES).isPresent() ? Optional.empty() : spanning(start, header);
        if (two.isPresent()) {
            header = two.get();
            lines = 2;
        }
        int row = Integer.parseInt(header.value());
        if (row == 0) {
            int skipped = options.integer(SKIP_ROWS, 0, 0, MOST_ROWS);
            int width = start.stream()
                    .filter(line -> line.number() > skipped)
                    .mapToInt(line -> line.cells().size())
                    .max()
                    .orElse(0);
            return new SheetTable(sheet, Heading.numbered(width), skipped, header, lines(options, 1, false));
        }
        List<String> first = line(start, row);
        Heading heading = lines == 2 ? Heading.of(first, line(start, row + 1)) : Heading.of(first);
        return new SheetTable(sheet, heading, row + lines - 1L, header, lines(options, lines, two.isPresent()));
    }

    /** Of a heading of two lines the lower one is as wide as the table, and the upper one stands right above it. */
    private static Detected firstOfTwo(List<Line> start) {
        Detected lower = HeadingSearch.find(start);
        int row = Math.max(1, Integer.parseInt(lower.value()) - 1);
        return new Detected(
                Heading.HEADER_ROW,
                String.valueOf(row),
                lower.confidence() * 0.9,
                "the row above " + lower.value() + ", which is " + lower.evidence());
    }

    /** The row with the upper names, where the row that was found and the one above or below it are one heading. */
    private static Optional<Detected> spanning(List<Line> start, Detected header) {
        int row = Integer.parseInt(header.value());
        for (int i = 0; i + 1 < start.size(); i++) {
            Line upper = start.get(i);
            boolean near = upper.number() == row || upper.number() == row - 1;
            if (near && SpanningSearch.isHeading(upper, start.get(i + 1))) {
                return Optional.of(new Detected(
                        Heading.HEADER_ROW,
                        String.valueOf(upper.number()),
                        header.confidence() * 0.9,
                        "its names span columns of the row below"));
            }
        }
        return Optional.empty();
    }

    private static Detected lines(FormatOptions options, int lines, boolean detected) {
        String value = String.valueOf(lines);
        return detected
                ? new Detected(Heading.HEADER_LINES, value, 0.85, "the names of two rows together name every column")
                : options.text(Heading.HEADER_LINES).isPresent()
                        ? Detected.stated(Heading.HEADER_LINES, value)
                        : Detected.usual(Heading.HEADER_LINES, value);
    }

    private static List<String> line(List<Line> lines, int number) {
        return lines.stream()
                .filter(line -> line.number() == number)
                .map(Line::cells)
                .findFirst()
                .orElse(List.of());
    }

    private static List<String> texts(Row row) {
        List<String> texts = new ArrayList<>();
        for (Object cell : row.cells()) {
            texts.add(text(cell));
        }
        while (!texts.isEmpty() && texts.getLast().isBlank()) {
            texts.removeLast();
        }
        return texts;
    }

    private static String text(@Nullable Object cell) {
        if (cell instanceof CellError error) {
            return error.shown();
        }
        return cell == null ? "" : String.valueOf(Values.text(cell));
    }

    /** Whether the columns have names in the sheet. */
    boolean hasNames() {
        return !headerRow.value().equals("0");
    }

    /** The last row that holds something; the heading where there is none. */
    long lastRow(Sheets sheets) {
        long last = lastHeading;
        try (Rows rows = sheets.open(sheet)) {
            for (Row row = rows.next(); row != null; row = rows.next()) {
                last = Math.max(last, row.number());
            }
        }
        return last;
    }

    /** The address of every column by its name, as letters. */
    Map<String, String> addresses() {
        Map<String, String> addresses = new HashMap<>();
        for (int i = 0; i < heading.names().size(); i++) {
            addresses.put(heading.names().get(i), letters(i));
        }
        return addresses;
    }

    /** A column's letters: A to Z, AA and so on; {@code column} from 0. */
    static String letters(int column) {
        StringBuilder letters = new StringBuilder();
        for (int rest = column; rest >= 0; rest = rest / 26 - 1) {
            letters.insert(0, (char) ('A' + rest % 26));
        }
        return letters.toString();
    }
}

package dev.nachlauf.connectors.format.fixed;

import dev.nachlauf.core.system.FormatOptions;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A field and its positions, {@code from} and {@code to} from 1, both included. */
record FixedColumn(String name, int from, int to) {
    private static final Pattern COLUMN = Pattern.compile("\\s*(.+?)\\s*:\\s*(\\d{1,5})(?:\\s*-\\s*(\\d{1,5}))?\\s*");
    private static final int MOST = 4_096;

    /** The columns that a job states. */
    static List<FixedColumn> parse(FormatOptions options) {
        String stated = options.text(FixedFormat.COLUMNS)
                .orElseThrow(() -> FormatOptions.malformed(
                        FixedFormat.COLUMNS,
                        "The format fixed needs columns, such as columns: { code: 1-6, name: 7-30 }."));
        List<FixedColumn> columns = new ArrayList<>();
        Set<String> names = new HashSet<>();
        int last = 0;
        for (String part : stated.split(",")) {
            Matcher matcher = COLUMN.matcher(part);
            if (!matcher.matches()) {
                throw wrong("'" + part.strip() + "' is not a name and its positions, such as code: 1-6.");
            }
            int from = Integer.parseInt(matcher.group(2));
            int to = matcher.group(3) == null ? from : Integer.parseInt(matcher.group(3));
            if (from <= last || to < from) {
                throw wrong("The positions of " + matcher.group(1)
                        + " have to lie behind those of the column before it and end where they start or later.");
            }
            if (!names.add(matcher.group(1))) {
                throw wrong("The name " + matcher.group(1) + " stands twice.");
            }
            columns.add(new FixedColumn(matcher.group(1), from, to));
            last = to;
        }
        if (columns.size() > MOST) {
            throw wrong("There are more than " + MOST + " columns.");
        }
        return columns;
    }

    private static RuntimeException wrong(String sentence) {
        return FormatOptions.malformed(FixedFormat.COLUMNS, sentence);
    }

    /** The field's text in a line, without spaces around it; empty where the line ends before. */
    String of(String line) {
        return from > line.length()
                ? ""
                : line.substring(from - 1, Math.min(to, line.length())).strip();
    }
}

package dev.nachlauf.connectors.format.delimited;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** How values are spelled in a delimited text that is there already. */
record CellSpelling(Layout layout) {
    private static final Pattern LINE_BREAK = Pattern.compile("\\r\\n|\\n|\\r");

    /** The last line that a row takes. */
    static long lastLine(Records.Fields row) {
        long last = row.line();
        for (String cell : row.cells()) {
            boolean one = cell.indexOf('\n') < 0 && cell.indexOf('\r') < 0;
            last += one ? 0 : LINE_BREAK.matcher(cell).results().count();
        }
        return last;
    }

    /** A row of values. */
    String row(List<String> values) {
        // a line of nothing would be no row
        return values.size() == 1 && values.getFirst().isEmpty() && layout.quote() != Layout.NONE
                ? String.valueOf(layout.quote()).repeat(2)
                : values.stream().map(this::value).collect(Collectors.joining(layout.delimiter()));
    }

    /**
     * A value.
     *
     * @throws CannotGoOn where the text has no quotes, and the value would need them
     */
    private String value(String value) {
        if (layout.quote() == Layout.NONE && needsQuotes(value)) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.OUTPUT_UNFIT,
                    "A value holds a delimiter or a line break, and the file has no quotes around values.",
                    "Replace them in the map, or choose a quote for the file."));
        }
        return spelled(value);
    }

    /** A remark beside a row: where it can't be spelled as it is, blanks stand for what has no place. */
    String noted(String remark) {
        return layout.quote() == Layout.NONE
                ? remark.replace(layout.delimiter(), " ").replaceAll("[\\r\\n]+", " ")
                : spelled(remark);
    }

    private boolean needsQuotes(String value) {
        return value.contains(layout.delimiter())
                || value.indexOf('\n') >= 0
                || value.indexOf('\r') >= 0
                || layout.quote() != Layout.NONE && value.indexOf(layout.quote()) >= 0
                || layout.escape() != Layout.NONE && value.indexOf(layout.escape()) >= 0;
    }

    private String spelled(String value) {
        if (!needsQuotes(value)) {
            return value;
        }
        String quote = String.valueOf(layout.quote());
        String escape = String.valueOf(layout.escape());
        String inner = layout.escape() == Layout.NONE
                ? value.replace(quote, quote + quote)
                : value.replace(escape, escape + escape).replace(quote, escape + quote);
        return quote + inner + quote;
    }
}

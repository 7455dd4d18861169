package dev.nachlauf.connectors.format.heading;

import dev.nachlauf.connectors.format.heading.HeadingSearch.Line;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.IntStream;

/**
 * Tells headings of two lines, whose upper names span columns, from a heading of one line and the first row below it. The
 * upper line has a gap behind a name, the lower one a name in that gap and gaps below names that stand alone, or the same
 * names several times; together they name every column, and each differently.
 */
public final class SpanningSearch {
    private static final Pattern A_NUMBER = Pattern.compile("[-+]?[0-9.,:/ -]+");

    private SpanningSearch() {}

    /** Whether two lines that follow each other are one heading. */
    public static boolean isHeading(Line upper, Line lower) {
        if (lower.number() != upper.number() + 1 || hasNumbers(upper) || hasNumbers(lower)) {
            return false;
        }
        int width = Math.max(upper.width(), lower.width());
        boolean spans = IntStream.range(1, width)
                .anyMatch(i -> cell(upper, i).isEmpty() && !cell(lower, i).isEmpty());
        boolean alone = IntStream.range(0, width)
                .anyMatch(i -> !cell(upper, i).isEmpty() && cell(lower, i).isEmpty());
        boolean complete = IntStream.range(0, width)
                .noneMatch(i -> cell(upper, i).isEmpty() && cell(lower, i).isEmpty());
        return spans
                && complete
                && !cell(upper, 0).isEmpty()
                && (alone || repeats(lower))
                && Heading.of(upper.cells(), lower.cells()).remarks().isEmpty();
    }

    private static boolean hasNumbers(Line line) {
        return line.cells().stream()
                .anyMatch(cell -> A_NUMBER.matcher(cell.strip()).matches());
    }

    private static boolean repeats(Line line) {
        Set<String> names = new HashSet<>();
        List<String> filled =
                line.cells().stream().filter(cell -> !cell.isBlank()).toList();
        return filled.stream().anyMatch(name -> !names.add(name.strip()));
    }

    private static String cell(Line line, int column) {
        return column < line.cells().size() ? line.cells().get(column).strip() : "";
    }
}

package dev.nachlauf.connectors.format.heading;

import dev.nachlauf.core.source.FieldGuess;
import dev.nachlauf.core.system.Detected;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Finds the line with the names among the first lines of a table: the first that fills most of the table's width. Titles
 * above it are narrower; a table without names starts with values at once.
 */
public final class HeadingSearch {
    private static final int LINES = 30;
    private static final double MOST_OF_IT = 0.6;

    private HeadingSearch() {}

    /** A line of the table: its number in the file, and its cells, empty for blank ones. */
    public record Line(int number, List<String> cells) {
        int width() {
            int width = cells.size();
            while (width > 0 && cells.get(width - 1).isBlank()) {
                width--;
            }
            return width;
        }

        int filled() {
            return (int) cells.stream().filter(cell -> !cell.isBlank()).count();
        }
    }

    /** The number of the line with the names as the option {@code header-row}; 0 where there is none. */
    public static Detected find(List<Line> table) {
        List<Line> lines =
                table.stream().filter(line -> line.filled() > 0).limit(LINES).toList();
        if (lines.isEmpty()) {
            return new Detected(Heading.HEADER_ROW, "1", 0, "there are no lines");
        }
        int width = usualWidth(lines);
        for (int i = 0; i < lines.size(); i++) {
            Line line = lines.get(i);
            if (line.filled() > width * MOST_OF_IT) {
                return judged(line, lines.subList(i + 1, lines.size()));
            }
        }
        return new Detected(Heading.HEADER_ROW, String.valueOf(lines.getFirst().number()), 0.3, "the first line");
    }

    /** The width that most lines have; of two that are as common the one that occurs first. */
    private static int usualWidth(List<Line> lines) {
        Map<Integer, Integer> counts = new LinkedHashMap<>();
        lines.forEach(line -> counts.merge(line.width(), 1, Integer::sum));
        int most = Collections.max(counts.values());
        return counts.entrySet().stream()
                .filter(width -> width.getValue() == most)
                .map(Map.Entry::getKey)
                .findFirst()
                .orElse(1);
    }

    private static Detected judged(Line line, List<Line> below) {
        List<String> likeBelow = new ArrayList<>();
        for (int column = 0; column < line.cells().size(); column++) {
            Kind here = kind(List.of(line), column);
            if (here != null && here != Kind.TEXT && here == kind(below, column)) {
                likeBelow.add("column " + (column + 1) + " is " + here.word() + " from there on");
            }
        }
        if (likeBelow.size() * 3 >= line.filled() && !below.isEmpty()) {
            return new Detected(Heading.HEADER_ROW, "0", 0.8, "no names: " + String.join(", ", likeBelow));
        }
        boolean different =
                line.cells().stream().filter(cell -> !cell.isBlank()).distinct().count() == line.filled();
        return new Detected(
                Heading.HEADER_ROW,
                String.valueOf(line.number()),
                different ? 0.95 : 0.7,
                "the first line that fills the table's width"
                        + (different ? ", with different names" : ", though names are repeated"));
    }

    private static @Nullable Kind kind(List<Line> lines, int column) {
        FieldGuess guess = new FieldGuess();
        boolean any = false;
        for (Line line : lines) {
            if (column < line.cells().size() && !line.cells().get(column).isBlank()) {
                guess.add(line.cells().get(column));
                any = true;
            }
        }
        return any ? guess.guess().reading().kind() : null;
    }
}

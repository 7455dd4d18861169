package dev.nachlauf.connectors.format.heading;

import dev.nachlauf.core.system.Detected;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Names of columns, each of which stands only once.
 *
 * @param remarks what was done to get there, for people; empty where the file's names were taken as they are
 */
public record Heading(List<String> names, List<String> remarks) {
    /** The options' names. */
    public static final String HEADER_ROW = "header-row";

    public static final String HEADER_LINES = "header-lines";

    private static final String NAMES = "names";

    public Heading {
        names = List.copyOf(names);
        remarks = List.copyOf(remarks);
    }

    /** Names by number, for a table without any. */
    public static Heading numbered(int columns) {
        List<String> names = new ArrayList<>();
        for (int i = 1; i <= columns; i++) {
            names.add("field_" + i);
        }
        return new Heading(names, List.of());
    }

    /** The names of a line: a column without a name is called by its number, a repeated name gets one. */
    public static Heading of(List<String> line) {
        List<String> names = new ArrayList<>();
        List<String> remarks = new ArrayList<>();
        Set<String> taken = new HashSet<>(line.stream().map(Heading::clean).toList());
        Set<String> given = new HashSet<>();
        for (int i = 0; i < line.size(); i++) {
            String name = clean(line.get(i));
            if (name.isEmpty()) {
                name = free("field_" + (i + 1), taken);
                remarks.add("column " + (i + 1) + " has no name and is called " + name);
            } else if (given.contains(name)) {
                String repeated = name;
                name = free(name + " (2)", taken);
                for (int n = 3; given.contains(name); n++) {
                    name = repeated + " (" + n + ")";
                }
                remarks.add("column " + (i + 1) + " repeats " + repeated + " and is called " + name);
            }
            given.add(name);
            names.add(name);
        }
        return new Heading(names, remarks);
    }

    /**
     * The names of two lines, the upper one of which spans several columns: {@code adult} over {@code summer} and {@code
     * winter} gives {@code adult summer} and {@code adult winter}. A name that stands alone in either line is the
     * column's.
     */
    public static Heading of(List<String> upper, List<String> lower) {
        List<String> joined = new ArrayList<>();
        String spanning = "";
        for (int i = 0; i < Math.max(upper.size(), lower.size()); i++) {
            String above = i < upper.size() ? clean(upper.get(i)) : "";
            String below = i < lower.size() ? clean(lower.get(i)) : "";
            if (!above.isEmpty()) {
                spanning = above;
            }
            joined.add(below.isEmpty() ? above : (spanning + " " + below).strip());
        }
        return of(joined);
    }

    private static String clean(String name) {
        return name.strip().replaceAll("\\s+", " ");
    }

    private static String free(String name, Set<String> taken) {
        String free = name;
        while (!taken.add(free)) {
            free += "_";
        }
        return free;
    }

    /** What was done to the names, as an option that people see. */
    public Optional<Detected> detected() {
        return remarks.isEmpty()
                ? Optional.empty()
                : Optional.of(new Detected(NAMES, "made unique", 1, String.join("; ", remarks)));
    }
}

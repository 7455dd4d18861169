package dev.nachlauf.core.crosswalk;

import dev.nachlauf.core.crosswalk.Crosswalk.Entry;
import dev.nachlauf.core.crosswalk.Crosswalk.From;
import dev.nachlauf.core.crosswalk.Crosswalk.To;
import dev.nachlauf.core.document.Document;
import dev.nachlauf.core.document.DocumentKind;
import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.SourceText;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Crosswalk documents: YAML, or rows of a table, to what they say; and back, entry by entry. */
public final class CrosswalkFile {
    /** More entries than this are refused. */
    public static final int MOST_ENTRIES = 100_000;

    /** Room for that many entries, in UTF-16 units. */
    private static final int LONGEST = 10_000_000;

    private static final Pattern NAME = Pattern.compile("[a-z0-9][a-z0-9-]{0,63}");
    private static final Pattern RANGE = Pattern.compile("(-?\\d+(?:\\.\\d+)?)?\\.\\.(-?\\d+(?:\\.\\d+)?)?");

    private CrosswalkFile() {}

    /** The crosswalk; empty when there were problems, all of which are added to {@code problems}. */
    public static Optional<Crosswalk> read(SourceText source, List<Problem> problems) {
        List<Problem> found = new ArrayList<>();
        Optional<Crosswalk> crosswalk = Document.parse(source, LONGEST, found)
                .filter(DocumentKind.CROSSWALK::heads)
                .map(root -> crosswalk(root, found));
        crosswalk.ifPresent(sound -> check(sound, found));
        problems.addAll(found);
        return found.isEmpty() ? crosswalk : Optional.empty();
    }

    private static void check(Crosswalk crosswalk, List<Problem> problems) {
        if (problems.isEmpty()) {
            dev.nachlauf.core.crosswalk.Matcher.compile(crosswalk, problems);
        }
    }

    private static Crosswalk crosswalk(Section root, List<Problem> problems) {
        String name = root.requiredText("crosswalk").orElse("");
        if (!name.isEmpty() && !NAME.matcher(name).matches()) {
            root.problem(
                    "crosswalk",
                    ProblemCode.NAME_MALFORMED,
                    "The name " + name + " is not made of small letters, digits and hyphens.",
                    "");
        }
        String title = root.text("title").orElse(name);
        boolean ignoreCase = root.text("ignore-case").orElse("false").equals("true");
        Optional<String> empty = root.text("empty");
        List<Entry> entries = new ArrayList<>();
        root.require("entries");
        List<Section> sections = root.sections("entries");
        if (sections.size() > MOST_ENTRIES) {
            root.problem(
                    "entries",
                    ProblemCode.VALUE_WRONG_KIND,
                    "A crosswalk has at most " + MOST_ENTRIES + " entries.",
                    "Use a lookup for larger tables.");
        } else {
            sections.forEach(section -> entry(section, problems).ifPresent(entries::add));
        }
        root.done();
        return new Crosswalk(name, title, ignoreCase, empty, entries);
    }

    private static Optional<Entry> entry(Section section, List<Problem> problems) {
        String scope = section.text("scope").orElse("");
        Optional<From> from = from(section, problems);
        Optional<To> to = section.has("gives")
                ? section.formula("gives").map(To.Computed::new)
                : section.has("otherwise")
                        ? section.text("otherwise").map(To.Value::new)
                        : section.requiredText("to").map(To.Value::new);
        section.done();
        return from.isEmpty() || to.isEmpty()
                ? Optional.empty()
                : Optional.of(new Entry(scope, from.get(), to.get(), section.place()));
    }

    private static Optional<From> from(Section section, List<Problem> problems) {
        if (section.has("from")) {
            return section.text("from").map(From.Exact::new);
        }
        if (section.has("like")) {
            return section.text("like").map(From.Wildcard::new);
        }
        if (section.has("when")) {
            return section.formula("when").map(From.When::new);
        }
        if (section.has("otherwise")) {
            return Optional.of(new From.Otherwise());
        }
        if (section.has("range")) {
            String text = section.text("range").orElse("");
            Optional<From> range = range(text);
            if (range.isEmpty()) {
                section.problem(
                        "range",
                        ProblemCode.VALUE_WRONG_KIND,
                        "'" + text + "' is no range of numbers.",
                        "Write it as 1..9, ..9 or 10..");
            }
            return range;
        }
        problems.add(Problem.at(
                section.place(),
                ProblemCode.KEY_MISSING,
                "The entry doesn't say which values it translates.",
                "Add from, like, range, when or otherwise."));
        return Optional.empty();
    }

    private static Optional<From> range(String text) {
        Matcher matcher = RANGE.matcher(text);
        if (!matcher.matches() || matcher.group(1) == null && matcher.group(2) == null) {
            return Optional.empty();
        }
        return Optional.of(new From.Range(number(matcher.group(1)), number(matcher.group(2))));
    }

    private static @Nullable BigDecimal number(@Nullable String text) {
        return text == null ? null : new BigDecimal(text);
    }

    /**
     * The document that rows of two or three columns make: value, translation, scope. Where there is no value, the
     * translation is what an empty value becomes; rows without a translation make nothing.
     */
    public static String document(String name, String title, List<List<@Nullable String>> rows) {
        StringBuilder out = new StringBuilder("nachlauf: 1\ncrosswalk: ")
                .append(name)
                .append("\ntitle: ")
                .append(quoted(title));
        rows.stream()
                .filter(row -> row.getFirst() == null && row.get(1) != null)
                .forEach(row -> out.append("\nempty: ").append(quoted(String.valueOf(row.get(1)))));
        out.append("\nentries:\n");
        for (List<@Nullable String> row : rows) {
            String from = row.getFirst();
            String to = row.size() > 1 ? row.get(1) : null;
            String scope = row.size() > 2 ? row.get(2) : null;
            if (from != null && to != null) {
                out.append(line("  ", tableKey(from), from, to, scope == null ? "" : scope));
            }
        }
        return out.toString();
    }

    /** In a table a lone star is the default, stars and question marks are wildcards, and 1..9 is a range. */
    private static String tableKey(String from) {
        if (from.equals("*")) {
            return "otherwise";
        }
        if (from.contains("*") || from.contains("?")) {
            return "like";
        }
        return range(from).isPresent() ? "range" : "from";
    }

    private static String line(String indent, String key, String from, String to, String scope) {
        Map<String, String> parts = new LinkedHashMap<>();
        if (key.equals("otherwise")) {
            parts.put("otherwise", to);
        } else {
            parts.put(key, from);
            parts.put("to", to);
        }
        if (!scope.isEmpty()) {
            parts.put("scope", scope);
        }
        StringBuilder out = new StringBuilder(indent).append("- { ");
        parts.forEach((name, value) -> out.append(out.charAt(out.length() - 2) == '{' ? "" : ", ")
                .append(name)
                .append(": ")
                .append(quoted(value)));
        return out.append(" }\n").toString();
    }

    /** A value as YAML takes it in every place. */
    private static String quoted(String value) {
        return "'" + value.replace("\r", " ").replace("\n", " ").replace("'", "''") + "'";
    }

    /** An exact entry that is to be added. */
    public record Addition(String scope, String from, String to) {}

    /** A document with more exact entries behind its others; comments and the rest stay as they are. */
    public static String with(String document, List<Addition> additions) {
        List<Problem> ignored = new ArrayList<>();
        SourceText source = new SourceText("crosswalk", document.replace("entries: []", "entries:"));
        return with(source, additions, ignored);
    }

    private static String with(SourceText source, List<Addition> additions, List<Problem> ignored) {
        String document = source.text();
        Section root = Document.parse(source, LONGEST, ignored)
                .orElseThrow(() -> new IllegalArgumentException("a saved crosswalk can be read"));
        int entries = root.sections("entries").size();
        int end = root.placeOfItem("entries", entries - 1) instanceof Place.InText last
                ? document.indexOf('\n', Math.max(0, last.span().end() - 1))
                : -1;
        int start = end < 0 ? document.length() : end + 1;
        String head = document.substring(0, start);
        String separator = head.endsWith("\n") ? "" : "\n";
        StringBuilder lines = new StringBuilder();
        String indent = indent(document, root, entries);
        additions.forEach(one -> lines.append(line(indent, "from", one.from(), one.to(), one.scope())));
        String grown = head + separator + lines + document.substring(start);
        if (read(new SourceText("crosswalk", grown), ignored).isEmpty()) {
            throw new CannotGoOn(Problem.of(
                    ProblemCode.YAML_MALFORMED,
                    "Entries can't be added to this document: "
                            + ignored.getFirst().sentence(),
                    "Write each entry on a line of its own behind a dash, and save it anew."));
        }
        return grown;
    }

    private static String indent(String document, Section root, int entries) {
        if (entries == 0 || !(root.placeOfItem("entries", 0) instanceof Place.InText first)) {
            return "  ";
        }
        int line = document.lastIndexOf('\n', first.span().start()) + 1;
        int dash = document.indexOf('-', line);
        return document.substring(line, Math.max(line, dash));
    }
}

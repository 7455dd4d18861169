package dev.nachlauf.core.document;

import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.text.Span;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.snakeyaml.engine.v2.common.ScalarStyle;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;

/**
 * Where YAML's rules refuse or silently damage a formula that reads well: it starts with a quote, holds {@code ": "} or
 * {@code " #"}, or stands in a flow map with a comma. Each case is told with the spelling that is safe.
 */
final class YamlTraps {
    private static final Pattern QUOTED_START = Pattern.compile("^\\s*(?:- +)?[^\\s:][^:]*:\\s+((['\"]).*)$");
    private static final Pattern PLAIN_WORDS = Pattern.compile("[\\p{L}\\p{N}_ .-]*");
    private static final Pattern FLOW_CALL = Pattern.compile("^.*\\{.*\\([^)]*,.*$");
    private static final Pattern FLOW_PARAMETER = Pattern.compile("^.*[^$]\\{.*?([^\\s,:{]*\\$\\{[^}]*}[^\\s,}]*).*$");
    private static final Pattern VALUE = Pattern.compile("^\\s*(?:- +)?[^\\s:][^:]*:\\s+(.*)$");

    private YamlTraps() {}

    /** What a parser's complaint means to the person who wrote the line. */
    static Problem explain(SourceText source, MarkedYamlEngineException e) {
        int offset = e.getProblemMark()
                .map(mark -> source.text().offsetByCodePoints(0, Math.min(mark.getIndex(), codePoints(source))))
                .orElse(0);
        String line = source.lineAt(offset);
        Place place = new Place.InText(source, new Span(offset, offset));
        Matcher parameter = FLOW_PARAMETER.matcher(line);
        if (parameter.matches()) {
            return Problem.at(
                    place,
                    ProblemCode.YAML_TRAP,
                    "In a map with braces YAML takes the brace of ${…} for a map of its own.",
                    "Put quotes around the value: \"" + parameter.group(1) + "\"");
        }
        if (FLOW_CALL.matcher(line).matches()) {
            return Problem.at(
                    place,
                    ProblemCode.YAML_TRAP,
                    "In a map with braces YAML ends a value at the comma.",
                    "Write the map on lines of its own, a key on each: " + line.strip());
        }
        Matcher quoted = QUOTED_START.matcher(line);
        if (quoted.matches()) {
            return Problem.at(
                    place,
                    ProblemCode.YAML_TRAP,
                    "The value starts with a quote, so YAML takes the quoted part for the whole of it.",
                    "Put parentheses around the formula: (" + quoted.group(1).strip() + ")");
        }
        String said = String.valueOf(e.getProblem());
        Matcher value = VALUE.matcher(line);
        if (said.contains("mapping values are not allowed") && value.matches()) {
            return Problem.at(
                    place,
                    ProblemCode.YAML_TRAP,
                    "A colon followed by a space starts a new key in YAML.",
                    "Put the formula on a line of its own under >- : "
                            + value.group(1).strip());
        }
        return Problem.at(place, ProblemCode.YAML_MALFORMED, "This is not YAML: " + said + ".", remedy(line));
    }

    private static String remedy(String line) {
        if (line.indexOf('\t') >= 0) {
            return "Indent with spaces; YAML allows no tabs there.";
        }
        return "Check the indentation and the quotes of this line and the one above.";
    }

    private static int codePoints(SourceText source) {
        return source.text().codePointCount(0, source.text().length());
    }

    /** Whether the quotes that a person wrote around text or a name went to YAML instead of the formula. */
    static Optional<String> eatenQuotes(String value, ScalarStyle style) {
        boolean quoted = style == ScalarStyle.SINGLE_QUOTED || style == ScalarStyle.DOUBLE_QUOTED;
        if (!quoted || !PLAIN_WORDS.matcher(value).matches()) {
            return Optional.empty();
        }
        String spelling = style == ScalarStyle.SINGLE_QUOTED
                ? "('" + value + "')"
                : "(\"" + value + "\") for a field, ('" + value + "') for text";
        return Optional.of("Put parentheses around it: " + spelling);
    }

    /** Whether a formula was cut where a comment starts behind it. */
    static boolean cutByComment(String value, String restOfLine) {
        return restOfLine.stripLeading().startsWith("#") && !restOfLine.startsWith("#") && unbalanced(value);
    }

    /** Whether quotes or parentheses stay open. */
    static boolean unbalanced(String formula) {
        int open = 0;
        char quote = 0;
        for (int i = 0; i < formula.length(); i++) {
            char c = formula.charAt(i);
            if (quote != 0) {
                quote = c == quote ? 0 : quote;
            } else if (c == '\'' || c == '"') {
                quote = c;
            } else {
                open += c == '(' ? 1 : c == ')' ? -1 : 0;
            }
        }
        return open != 0 || quote != 0;
    }
}

package dev.nachlauf.core.document;

import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.text.Span;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.snakeyaml.engine.v2.common.ScalarStyle;
import org.snakeyaml.engine.v2.exceptions.Mark;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;

/**
 * Where YAML's rules refuse or silently damage a formula that reads well: it starts with a quote or a hyphen, holds {@code
 * ": "} or {@code " #"}, has a backslash in double quotes, or stands between braces with a comma or a bracket. Each case is
 * told with the spelling that is safe.
 */
final class YamlTraps {
    private static final String CUT_BY_COMMENT =
            "YAML takes a # behind a space for the start of a comment and cuts the value there.";
    private static final String CUT_BY_COMMA = "Between braces YAML ends a value at the comma.";
    private static final Pattern COMMENT = Pattern.compile("[ \\t]+#");
    private static final Pattern PLAIN_WORDS = Pattern.compile("(?:[\\p{L}\\p{N}_][\\p{L}\\p{N}_ .-]*)?");

    private YamlTraps() {}

    /** What a parser's complaint means to the person who wrote the line. */
    static Problem explain(SourceText source, MarkedYamlEngineException e) {
        return Stream.of(e.getProblemMark(), e.getContextMark())
                .flatMap(mark -> at(source, mark).stream())
                .flatMap(offset -> inLineOf(source, offset).stream())
                .findFirst()
                .orElseGet(() -> malformed(source, e));
    }

    private static Problem malformed(SourceText source, MarkedYamlEngineException e) {
        int offset = at(source, e.getProblemMark()).orElse(0);
        boolean tab = source.lineAt(offset).indexOf('\t') >= 0;
        return Problem.at(
                new Place.InText(source, new Span(offset, offset)),
                ProblemCode.YAML_MALFORMED,
                "This is not YAML: " + e.getProblem() + ".",
                tab
                        ? "Indent with spaces; YAML allows no tabs there."
                        : "Check the indentation and the quotes of this line and the one above.");
    }

    private static Optional<Integer> at(SourceText source, Optional<Mark> mark) {
        return mark.map(found -> new Offsets(source.text()).of(found.getIndex()));
    }

    private static Optional<Problem> inLineOf(SourceText source, int offset) {
        int start = source.text().lastIndexOf('\n', offset - 1) + 1;
        for (WrittenValue value : WrittenValue.in(source.lineAt(offset))) {
            String sentence = value.isBalanced() ? trap(value) : null;
            if (sentence != null) {
                WrittenValue placed = new WrittenValue(value.text(), start + value.start(), value.inBraces());
                return Optional.of(trapped(source, placed, sentence));
            }
        }
        return Optional.empty();
    }

    private static @Nullable String trap(WrittenValue value) {
        String text = value.text();
        if (value.isList()) {
            return null;
        }
        if (value.isQuoted()) {
            return text.startsWith("\"") && text.indexOf('\\') > 0
                    ? "In double quotes YAML takes a backslash for an escape of its own."
                    : null;
        }
        if (value.startsWithQuote()) {
            return "The value starts with a quote, so YAML takes the quoted part for the whole of it.";
        }
        if (text.startsWith("- ")) {
            return "A hyphen and a space start a list in YAML.";
        }
        if (value.inBraces() && text.contains("${")) {
            return "Between braces YAML takes the brace of ${…} for a map of its own.";
        }
        if (text.contains(": ")) {
            return "A colon followed by a space starts a new key in YAML.";
        }
        if (text.contains(" #")) {
            return CUT_BY_COMMENT;
        }
        if (value.inBraces() && text.indexOf(',') > 0) {
            return CUT_BY_COMMA;
        }
        return value.inBraces() && text.matches(".*[\\[\\]{}].*")
                ? "Between braces YAML takes a bracket for the start or end of a list or a map."
                : null;
    }

    private static String remedy(WrittenValue value) {
        String text = value.isQuoted() ? value.inside() : value.text();
        boolean parentheses = !value.inBraces()
                && (value.startsWithQuote() || text.startsWith("- "))
                && !value.isQuoted()
                && !text.contains(": ")
                && !text.contains(" #");
        return parentheses
                ? "Put parentheses around the formula: (" + text + ")"
                : "Put quotes around it: " + WrittenValue.quoted(text);
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

    /** What YAML has cut off a value between braces, which it took without complaint, at a comma. */
    static Optional<Problem> cutByComma(SourceText source, Span span) {
        WrittenValue written = WrittenValue.inBraces(source.text(), span.start());
        return WrittenValue.isBalanced(source.slice(span)) || !written.isBalanced()
                ? Optional.empty()
                : Optional.of(trapped(source, written, CUT_BY_COMMA));
    }

    /** What YAML has cut off a plain value where a comment starts behind it. */
    static Optional<Problem> cutByComment(SourceText source, Span span) {
        String text = source.text();
        int end = text.indexOf('\n', span.start());
        String line = WrittenValue.withoutComment(text.substring(span.start(), end < 0 ? text.length() : end));
        boolean comment =
                COMMENT.matcher(text).region(span.end(), text.length()).lookingAt();
        return !comment || WrittenValue.isBalanced(source.slice(span))
                ? Optional.empty()
                : Optional.of(trapped(source, new WrittenValue(line, span.start(), false), CUT_BY_COMMENT));
    }

    private static Problem trapped(SourceText source, WrittenValue written, String sentence) {
        Span span = new Span(written.start(), written.end());
        return Problem.at(new Place.InText(source, span), ProblemCode.YAML_TRAP, sentence, remedy(written));
    }
}

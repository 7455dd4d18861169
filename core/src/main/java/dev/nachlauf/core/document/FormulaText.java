package dev.nachlauf.core.document;

import dev.nachlauf.core.formula.FormulaSource;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.Span;
import java.util.Optional;
import org.snakeyaml.engine.v2.common.ScalarStyle;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.ScalarNode;

/** Formulas in a document, each character with its place; what YAML would make of one without a word is said. */
record FormulaText(Document document) {
    /** The formula that is the value of a key. */
    Optional<FormulaSource> of(String key, Node value) {
        if (!(value instanceof ScalarNode scalar) || Section.isEmpty(scalar)) {
            boolean nothing =
                    value instanceof ScalarNode word && word.getValue().equals("null");
            document.add(
                    document.span(value),
                    nothing ? ProblemCode.YAML_TRAP : ProblemCode.VALUE_WRONG_KIND,
                    nothing ? "YAML takes null for a value that is missing." : key + " needs a formula.",
                    nothing ? "Put parentheses around the formula: (null)" : "");
            return Optional.empty();
        }
        Optional<String> eaten = YamlTraps.eatenQuotes(scalar.getValue(), scalar.getScalarStyle());
        if (eaten.isPresent()) {
            document.add(
                    document.span(scalar),
                    ProblemCode.YAML_TRAP,
                    "YAML took the quotes away: the formula would be " + scalar.getValue() + " without them.",
                    eaten.get());
            return Optional.empty();
        }
        Span span = document.span(scalar);
        Optional<Problem> cut = scalar.getScalarStyle() == ScalarStyle.PLAIN
                ? YamlTraps.cutByComment(document.source(), span)
                : Optional.empty();
        if (cut.isPresent()) {
            document.add(cut.get());
            return Optional.empty();
        }
        return Optional.of(aligned(scalar.getValue(), span));
    }

    /** A text with the places of its characters in a span of the document. */
    FormulaSource aligned(String text, Span span) {
        return new FormulaSource(text, document.source(), align(text, span));
    }

    /** Follows the value through the raw text, past what YAML folded or escaped. */
    private int[] align(String value, Span span) {
        String raw = document.source().text();
        int[] offsets = new int[value.length() + 1];
        int at = span.start();
        for (int i = 0; i < value.length(); i++) {
            char c = value.charAt(i);
            int found = at;
            while (found < span.end() && !(raw.charAt(found) == c || c == ' ' && raw.charAt(found) == '\n')) {
                found++;
            }
            if (found >= span.end()) {
                found = Math.min(at, Math.max(span.start(), span.end() - 1));
            }
            offsets[i] = found;
            at = Math.min(found + 1, span.end());
        }
        offsets[value.length()] = at;
        return offsets;
    }
}

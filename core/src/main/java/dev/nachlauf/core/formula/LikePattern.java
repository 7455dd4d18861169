package dev.nachlauf.core.formula;

import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import org.jspecify.annotations.Nullable;

/**
 * Patterns of like: {@code %} is any text, {@code _} one character, the escape character takes the next one literally.
 * Matched with one pointer to fall back to: nothing recurses, and the steps that are taken again are counted.
 */
final class LikePattern {
    private static final int ANY = -1;
    private static final int ONE = -2;

    private final int[] symbols;

    private LikePattern(int[] symbols) {
        this.symbols = symbols;
    }

    /** Why a constant pattern or escape is wrong; null where nothing is. */
    static @Nullable String problem(Checked pattern, @Nullable Checked escape) {
        if (escape != null && escape instanceof Checked.Constant constant && constant.value() instanceof String text) {
            if (text.codePointCount(0, text.length()) > 1) {
                return "The escape of like is one character or none.";
            }
        }
        if (pattern instanceof Checked.Constant constant && constant.value() instanceof String text) {
            if (escape == null || escape instanceof Checked.Constant) {
                Object value = escape == null ? "\\" : ((Checked.Constant) escape).value();
                try {
                    of(text, String.valueOf(value));
                } catch (ValueProblem problem) {
                    return problem.sentence();
                }
            }
        }
        return null;
    }

    static LikePattern of(String pattern, String escape) {
        int escapeCharacter = escape.isEmpty() ? Integer.MAX_VALUE : escape.codePointAt(0);
        int[] points = pattern.codePoints().toArray();
        int[] symbols = new int[points.length];
        int count = 0;
        for (int i = 0; i < points.length; i++) {
            int point = points[i];
            if (point == escapeCharacter) {
                if (++i == points.length) {
                    throw new ValueProblem(
                            ProblemCode.OUT_OF_RANGE, "The pattern of like ends in its escape character.");
                }
                symbols[count++] = points[i];
            } else if (point == '%') {
                symbols[count++] = ANY;
            } else {
                symbols[count++] = point == '_' ? ONE : point;
            }
        }
        return new LikePattern(java.util.Arrays.copyOf(symbols, count));
    }

    boolean matches(String text) {
        int at = 0;
        int symbol = 0;
        int lastAny = -1;
        int resumeAt = 0;
        long again = 0;
        while (at < text.length()) {
            int point = text.codePointAt(at);
            if (symbol < symbols.length && (symbols[symbol] == ONE || symbols[symbol] == point)) {
                symbol++;
                at += Character.charCount(point);
            } else if (symbol < symbols.length && symbols[symbol] == ANY) {
                lastAny = symbol++;
                resumeAt = at;
            } else if (lastAny >= 0) {
                again += at - resumeAt;
                Values.requireCheap(again);
                resumeAt += Character.charCount(text.codePointAt(resumeAt));
                at = resumeAt;
                symbol = lastAny + 1;
            } else {
                return false;
            }
        }
        while (symbol < symbols.length && symbols[symbol] == ANY) {
            symbol++;
        }
        return symbol == symbols.length;
    }
}

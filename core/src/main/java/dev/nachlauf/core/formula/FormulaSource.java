package dev.nachlauf.core.formula;

import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.text.SourceText;
import dev.nachlauf.core.text.Span;

/**
 * A formula's text and where each of its characters stands in the file it came from.
 *
 * @param text the formula itself
 * @param file the text in which it stands
 * @param offsets the offset in {@code file} of every character and of the end
 */
public record FormulaSource(String text, SourceText file, int[] offsets) {
    public FormulaSource {
        if (offsets.length != text.length() + 1) {
            throw new IllegalArgumentException("one offset per character and one for the end");
        }
    }

    /** A formula that stands alone. */
    public static FormulaSource of(String text) {
        int[] offsets = new int[text.length() + 1];
        for (int i = 0; i < offsets.length; i++) {
            offsets[i] = i;
        }
        return new FormulaSource(text, new SourceText("formula", text), offsets);
    }

    /** The place in the file of a span of the formula. */
    public Place place(Span span) {
        int start = offsets[Math.min(span.start(), text.length())];
        int end = span.end() > span.start() ? offsets[Math.min(span.end(), text.length()) - 1] + 1 : start;
        return new Place.InText(file, new Span(start, Math.max(start, end)));
    }

    /** The place of the whole formula. */
    public Place place() {
        return place(new Span(0, text.length()));
    }
}

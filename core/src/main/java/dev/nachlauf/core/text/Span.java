package dev.nachlauf.core.text;

/** A stretch of a text: offsets in UTF-16 units, {@code end} exclusive. */
public record Span(int start, int end) {
    public Span {
        if (start < 0 || end < start) {
            throw new IllegalArgumentException("not a span: " + start + ".." + end);
        }
    }

    /** The stretch from the start of this span to the end of {@code last}. */
    public Span to(Span last) {
        return new Span(start, Math.max(end, last.end));
    }
}

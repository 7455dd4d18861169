package dev.nachlauf.core.text;

/** A named text; the one converter from offsets to lines and columns. */
public record SourceText(String name, String text) {

    /** The line and column of an offset; an offset behind the end counts as the end. */
    public Position position(int offset) {
        int at = Math.min(offset, text.length());
        int lineStart = lineStart(at);
        int line = 1;
        for (int i = 0; i < lineStart; i++) {
            if (text.charAt(i) == '\n') {
                line++;
            }
        }
        return new Position(line, text.codePointCount(lineStart, at) + 1);
    }

    /** The whole line in which an offset stands, without its line end. */
    public String lineAt(int offset) {
        int start = lineStart(Math.min(offset, text.length()));
        int end = text.indexOf('\n', start);
        String line = text.substring(start, end < 0 ? text.length() : end);
        return line.endsWith("\r") ? line.substring(0, line.length() - 1) : line;
    }

    /** What a span covers. */
    public String slice(Span span) {
        return text.substring(Math.min(span.start(), text.length()), Math.min(span.end(), text.length()));
    }

    private int lineStart(int offset) {
        return text.lastIndexOf('\n', offset - 1) + 1;
    }
}

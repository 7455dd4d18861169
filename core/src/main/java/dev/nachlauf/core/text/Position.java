package dev.nachlauf.core.text;

/** A place as people count: line and column start at 1, columns count code points. */
public record Position(int line, int column) {
    @Override
    public String toString() {
        return "line " + line + ", column " + column;
    }
}

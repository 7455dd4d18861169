package dev.nachlauf.core.document;

/** From code points, in which YAML counts, to UTF-16 units. Asked for every node, so it is told without counting. */
final class Offsets {
    /** Where each code point starts; empty where that is its own number. */
    private final int[] starts;

    private final int length;

    Offsets(String text) {
        length = text.length();
        int points = text.codePointCount(0, length);
        starts = points == length ? new int[0] : new int[points];
        int at = 0;
        for (int i = 0; i < starts.length; i++) {
            starts[i] = at;
            at += Character.charCount(text.codePointAt(at));
        }
    }

    /** The offset of a code point; of one behind the end the length. */
    int of(int codePoint) {
        if (starts.length == 0) {
            return Math.min(codePoint, length);
        }
        return codePoint < starts.length ? starts[codePoint] : length;
    }
}

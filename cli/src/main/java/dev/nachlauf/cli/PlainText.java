package dev.nachlauf.cli;

/** Text from files and systems, made harmless for what shows it. */
final class PlainText {
    /** The pictures of control characters begin here (Unicode, block Control Pictures). */
    private static final int PICTURES = 0x2400;

    private static final int DELETE = 0x7F;
    private static final int PICTURE_OF_DELETE = 0x2421;

    private PlainText() {}

    /**
     * The text with pictures in the place of control characters, so that no file can make a terminal do anything, and
     * without marks that turn the direction of what stands beside them. Line feeds and tabs stay.
     */
    static String forTerminal(String text) {
        StringBuilder plain = null;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            char shown = shown(c);
            if (shown != c && plain == null) {
                plain = new StringBuilder(text.length()).append(text, 0, i);
            }
            if (plain != null) {
                plain.append(shown);
            }
        }
        return plain == null ? text : plain.toString();
    }

    private static char shown(char c) {
        if (c == '\n' || c == '\t') {
            return c;
        }
        if (c < ' ') {
            return (char) (PICTURES + c);
        }
        if (c == DELETE) {
            return PICTURE_OF_DELETE;
        }
        boolean turns = c >= '\u202A' && c <= '\u202E' || c >= '\u2066' && c <= '\u2069';
        return turns || Character.isISOControl(c) ? '\uFFFD' : c;
    }
}

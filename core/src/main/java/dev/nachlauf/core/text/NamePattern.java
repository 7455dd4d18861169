package dev.nachlauf.core.text;

/**
 * A name with wildcards: {@code *} stands for any characters, {@code ?} for one. Matching looks at no character of the name
 * more often than the pattern is long, whatever both of them are.
 */
public final class NamePattern {
    private static final int ANY = -1;
    private static final int ONE = -2;

    private final int[] pattern;

    private NamePattern(String pattern, boolean questionMarks) {
        this.pattern = pattern.codePoints()
                .map(point -> point == '*' ? ANY : questionMarks && point == '?' ? ONE : point)
                .toArray();
    }

    /** A pattern in which both signs are wildcards. */
    public static NamePattern of(String pattern) {
        return new NamePattern(pattern, true);
    }

    /** A pattern in which only stars are wildcards, for names in which question marks are ordinary. */
    public static NamePattern ofStars(String pattern) {
        return new NamePattern(pattern, false);
    }

    /** Whether the whole name fits. */
    public boolean matches(String name) {
        int[] text = name.codePoints().toArray();
        int at = 0;
        int star = -1;
        int resume = 0;
        for (int i = 0; i < text.length; ) {
            if (at < pattern.length && pattern[at] == ANY) {
                star = at++;
                resume = i;
            } else if (at < pattern.length && (pattern[at] == ONE || pattern[at] == text[i])) {
                at++;
                i++;
            } else if (star >= 0) {
                // only the last star can need more: what stands before it fits as it is
                at = star + 1;
                i = ++resume;
            } else {
                return false;
            }
        }
        while (at < pattern.length && pattern[at] == ANY) {
            at++;
        }
        return at == pattern.length;
    }
}

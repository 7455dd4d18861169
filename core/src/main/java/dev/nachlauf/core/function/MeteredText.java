package dev.nachlauf.core.function;

import dev.nachlauf.core.value.Values;

/**
 * A text that can be read so often and no more. The engine of regular expressions takes time in proportion to what it
 * reads, but looking for match after match can read the rest of a text again and again; this ends it.
 */
final class MeteredText implements CharSequence {
    /** The engine looks at a character as itself, as the one before and as the one behind. */
    private static final int READS_PER_CHARACTER = 3;

    private final String text;
    private long left;

    private MeteredText(String text, long reads) {
        this.text = text;
        this.left = reads;
    }

    /**
     * The text itself where nothing that is done with it can cost too much.
     *
     * @param states how many places of a pattern may look at each character
     */
    static CharSequence of(String text, long states) {
        long length = text.length();
        return length * length * states <= Values.MOST_STEPS
                ? text
                : new MeteredText(text, Values.MOST_STEPS / states * READS_PER_CHARACTER);
    }

    @Override
    public char charAt(int index) {
        if (--left < 0) {
            throw Values.tooCostly();
        }
        return text.charAt(index);
    }

    @Override
    public int length() {
        return text.length();
    }

    @Override
    public CharSequence subSequence(int start, int end) {
        return text.substring(start, end);
    }

    @Override
    public String toString() {
        return text;
    }
}

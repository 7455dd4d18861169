package dev.nachlauf.core.query;

import java.util.Locale;

/** A field by which records are put in order; empty ones come last either way. */
public record Order(String field, boolean descending) {
    private static final String DOWN = " desc";
    private static final String UP = " asc";

    /** As it is written: the field, and perhaps {@code asc} or {@code desc} behind it. */
    public static Order of(String text) {
        String trimmed = text.trim();
        String lower = trimmed.toLowerCase(Locale.ROOT);
        if (lower.endsWith(DOWN)) {
            return new Order(without(trimmed, DOWN), true);
        }
        return new Order(lower.endsWith(UP) ? without(trimmed, UP) : trimmed, false);
    }

    private static String without(String text, String word) {
        return text.substring(0, text.length() - word.length()).trim();
    }
}

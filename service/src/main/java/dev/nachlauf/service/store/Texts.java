package dev.nachlauf.service.store;

/** Texts that come from files and are kept in columns of the database. */
public final class Texts {
    private static final char SYMBOL_FOR_NUL = '\u2400';

    private Texts() {}

    /** The text with the one character that a column can't hold, NUL, shown by its symbol. */
    public static String storable(String text) {
        return text.replace('\0', SYMBOL_FOR_NUL);
    }
}

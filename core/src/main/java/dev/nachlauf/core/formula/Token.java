package dev.nachlauf.core.formula;

import dev.nachlauf.core.text.Span;

/**
 * A token.
 *
 * @param text a word in small letters, a name or text without its quotes, a number, a symbol
 */
record Token(Type type, String text, Span span) {
    enum Type {
        /** A name without quotes or a keyword; {@code text} keeps its case. */
        WORD,
        /** A name in double quotes. */
        QUOTED_NAME,
        /** A parameter, without its colon. */
        PARAMETER,
        /** Text in single quotes. */
        TEXT,
        INTEGER,
        DECIMAL,
        SYMBOL,
        /** What has no meaning, which has been said. */
        BROKEN,
        END
    }

    boolean isWord(String word) {
        return type == Type.WORD && text.equalsIgnoreCase(word);
    }

    boolean isSymbol(String symbol) {
        return type == Type.SYMBOL && text.equals(symbol);
    }
}

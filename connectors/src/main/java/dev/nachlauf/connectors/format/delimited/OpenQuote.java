package dev.nachlauf.connectors.format.delimited;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.Reader;

/**
 * Whether a text ends inside of quotes (RFC 4180, section 2). The library takes such a text for one whose last field ends
 * with it, and that field would hold all rows behind the quote that opened.
 */
final class OpenQuote {
    private final String delimiter;
    private final char quote;
    private final char comment;
    private Where where = Where.START_OF_ROW;
    private int matched;

    private enum Where {
        START_OF_ROW,
        START_OF_FIELD,
        IN_FIELD,
        IN_QUOTES,
        /** Behind a quote inside of quotes: it was the closing one, unless another follows. */
        BEHIND_QUOTE,
        IN_COMMENT
    }

    private OpenQuote(Layout layout) {
        this.delimiter = layout.delimiter();
        this.quote = layout.quote();
        this.comment = layout.comment();
    }

    /** @param rows a text that begins with a row */
    static boolean atEndOf(Reader rows, Layout layout) throws IOException {
        if (layout.quote() == Layout.NONE) {
            return false;
        }
        OpenQuote state = new OpenQuote(layout);
        try (BufferedReader in = new BufferedReader(rows)) {
            for (int c = in.read(); c >= 0; c = in.read()) {
                state.next((char) c);
            }
        }
        return state.where == Where.IN_QUOTES;
    }

    private void next(char c) {
        if (where == Where.IN_QUOTES) {
            where = c == quote ? Where.BEHIND_QUOTE : Where.IN_QUOTES;
        } else if (c == '\n' || c == '\r') {
            where = Where.START_OF_ROW;
            matched = 0;
        } else if (where == Where.START_OF_ROW && comment != Layout.NONE && c == comment) {
            where = Where.IN_COMMENT;
        } else if (c == quote && where != Where.IN_FIELD && where != Where.IN_COMMENT) {
            where = Where.IN_QUOTES;
            matched = 0;
        } else if (where != Where.IN_COMMENT) {
            field(c);
        }
    }

    private void field(char c) {
        matched = c == delimiter.charAt(matched) ? matched + 1 : c == delimiter.charAt(0) ? 1 : 0;
        if (matched == delimiter.length()) {
            matched = 0;
            where = Where.START_OF_FIELD;
        } else {
            where = Where.IN_FIELD;
        }
    }
}

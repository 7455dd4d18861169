package dev.nachlauf.core.document;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The value of a key as a person wrote it. Where it ends is told by the quotes and parentheses of formulas, which YAML does
 * not know; where YAML sees another end, it damages the value.
 *
 * @param text without white space at its ends
 * @param start where it starts in the text that was looked through
 * @param inBraces whether it stands in a map with braces
 */
record WrittenValue(String text, int start, boolean inBraces) {
    private static final String KEY = "(?:\"[^\"]*\"|'[^']*'|[^:,{}\"']+):(?= )\\s*";
    private static final Pattern LINE_KEY = Pattern.compile("\\s*(?:- +)*(?:" + KEY + ")?");
    private static final Pattern KEY_IN_BRACES = Pattern.compile("[\\s,{]*" + KEY);

    /** The values of all keys of a line, first to last. */
    static List<WrittenValue> in(String line) {
        List<WrittenValue> values = new ArrayList<>();
        Matcher key = LINE_KEY.matcher(line);
        int start = key.lookingAt() ? key.end() : 0;
        if (start < line.length() && line.charAt(start) == '{') {
            inBraces(line, start, values);
        } else if (line.substring(0, start).contains(":") && start < line.length()) {
            values.add(new WrittenValue(withoutComment(line.substring(start)), start, false));
        }
        return values;
    }

    /** A comment starts behind a space and outside of quotes and parentheses; what YAML takes for one may be none. */
    static String withoutComment(String text) {
        int at = text.indexOf(" #");
        while (at >= 0 && !isBalanced(text.substring(0, at))) {
            at = text.indexOf(" #", at + 1);
        }
        return (at < 0 ? text : text.substring(0, at)).strip();
    }

    /** A brace opens a map of its own where a value starts; values of such maps are found one after the other. */
    private static void inBraces(String line, int brace, List<WrittenValue> values) {
        Matcher key = KEY_IN_BRACES.matcher(line);
        int at = brace;
        while (at < line.length() && key.region(at, line.length()).lookingAt()) {
            int start = key.end();
            if (start < line.length() && line.charAt(start) == '{') {
                at = start;
                continue;
            }
            WrittenValue value = inBraces(line, start);
            values.add(value);
            at = start + value.text.length();
            while (at < line.length() && (line.charAt(at) == '}' || line.charAt(at) == ' ')) {
                at++;
            }
        }
    }

    /** The value that starts at a place between braces: it ends at a comma or brace outside of quotes and parentheses. */
    static WrittenValue inBraces(String text, int start) {
        if (text.startsWith("[", start) && text.indexOf(']', start) > 0) {
            return new WrittenValue(text.substring(start, text.indexOf(']', start) + 1), start, true);
        }
        int open = 0;
        char quote = 0;
        int at = start;
        for (; at < text.length() && text.charAt(at) != '\n'; at++) {
            char c = text.charAt(at);
            if (quote != 0) {
                quote = c == quote ? 0 : quote;
            } else if (c == '\'' || c == '"') {
                quote = c;
            } else if (c == '$' && text.startsWith("${", at) && text.indexOf('}', at) > 0) {
                at = text.indexOf('}', at);
            } else if (open == 0 && (c == ',' || c == '}')) {
                break;
            } else {
                open += c == '(' ? 1 : c == ')' ? -1 : 0;
            }
        }
        return new WrittenValue(text.substring(start, at).strip(), start, true);
    }

    int end() {
        return start + text.length();
    }

    /** Whether quotes and parentheses are closed as a formula needs it. */
    boolean isBalanced() {
        return isBalanced(text);
    }

    static boolean isBalanced(String formula) {
        int open = 0;
        char quote = 0;
        for (int i = 0; i < formula.length(); i++) {
            char c = formula.charAt(i);
            if (quote != 0) {
                quote = c == quote ? 0 : quote;
            } else if (c == '\'' || c == '"') {
                quote = c;
            } else {
                open += c == '(' ? 1 : c == ')' ? -1 : 0;
            }
        }
        return open == 0 && quote == 0;
    }

    boolean isList() {
        return text.startsWith("[");
    }

    boolean startsWithQuote() {
        return text.startsWith("'") || text.startsWith("\"");
    }

    /** Whether the quotes around it are YAML's, and hold the whole of it. */
    boolean isQuoted() {
        if (!startsWithQuote() || text.length() < 2) {
            return false;
        }
        char quote = text.charAt(0);
        int at = 1;
        while (at < text.length()) {
            char c = text.charAt(at);
            boolean escaped = quote == '"' ? c == '\\' : text.startsWith("''", at) && c == quote;
            if (c == quote && !escaped) {
                return at == text.length() - 1;
            }
            at += escaped ? 2 : 1;
        }
        return false;
    }

    /** What stands between YAML's quotes. */
    String inside() {
        return text.substring(1, text.length() - 1);
    }

    /** In quotes that YAML takes off, so that the formula is what was meant, wherever it stands. */
    static String quoted(String formula) {
        boolean plain = formula.indexOf('"') < 0 && formula.indexOf('\\') < 0;
        return plain ? "\"" + formula + "\"" : "'" + formula.replace("'", "''") + "'";
    }
}

package dev.nachlauf.core.formula;

import dev.nachlauf.core.text.Span;
import java.util.ArrayList;
import java.util.List;

/** Text to tokens. What has no meaning is said and becomes a broken token, so that the rest is read all the same. */
final class Lexer {
    private static final List<String> SYMBOLS =
            List.of("<>", "!=", "<=", ">=", "||", "+", "-", "*", "/", "=", "<", ">", "(", ")", ",", ".");

    private final String text;
    private final Findings findings;
    private int at;

    private Lexer(String text, Findings findings) {
        this.text = text;
        this.findings = findings;
    }

    static List<Token> tokens(String text, Findings findings) {
        Lexer lexer = new Lexer(text, findings);
        List<Token> tokens = new ArrayList<>();
        Token token;
        do {
            token = lexer.next();
            tokens.add(token);
        } while (token.type() != Token.Type.END);
        return tokens;
    }

    private Token next() {
        while (at < text.length() && Character.isWhitespace(text.charAt(at))) {
            at++;
        }
        int start = at;
        if (at == text.length()) {
            return new Token(Token.Type.END, "", new Span(start, start));
        }
        char c = text.charAt(at);
        if (c == '\'') {
            return quoted(Token.Type.TEXT, '\'', "text");
        }
        if (c == '"') {
            return quoted(Token.Type.QUOTED_NAME, '"', "name");
        }
        if (c == ':' && at + 1 < text.length() && isNameStart(text.charAt(at + 1))) {
            at++;
            return new Token(Token.Type.PARAMETER, name(), new Span(start, at));
        }
        if (isNameStart(c)) {
            return new Token(Token.Type.WORD, name(), new Span(start, at));
        }
        if (isDigit(c) || c == '.' && at + 1 < text.length() && isDigit(text.charAt(at + 1))) {
            return number();
        }
        for (String symbol : SYMBOLS) {
            if (text.startsWith(symbol, at)) {
                at += symbol.length();
                return new Token(Token.Type.SYMBOL, symbol, new Span(start, at));
            }
        }
        return meaningless(start, c);
    }

    private Token meaningless(int start, char c) {
        int closing = text.indexOf(closing(c), start + 1);
        at = closing > 0 ? closing + 1 : start + Character.charCount(text.codePointAt(start));
        String symbol = Character.toString(text.codePointAt(start));
        return broken(new Span(start, at), "'" + symbol + "' has no meaning in a formula.", hint(c));
    }

    /** What closes a curly quote, which word processors make of straight ones; -1 for other characters. */
    private static int closing(char c) {
        return switch (c) {
            case '“' -> '”';
            case '„' -> '“';
            case '‘' -> '’';
            default -> -1;
        };
    }

    private Token broken(Span span, String sentence, String remedy) {
        findings.fault(span, sentence, remedy);
        return new Token(Token.Type.BROKEN, text.substring(span.start(), span.end()), span);
    }

    private static String hint(char c) {
        return switch (c) {
            case '&' -> "Text is joined with ||.";
            case '“', '”', '„', '‘', '’' -> "Use straight quotes: ' around text, \" around names.";
            case '%' -> "mod(a, b) is the remainder of a division.";
            default -> "";
        };
    }

    /** A doubled quote inside stands for one. */
    private Token quoted(Token.Type type, char quote, String what) {
        int start = at++;
        StringBuilder content = new StringBuilder();
        while (at < text.length()) {
            char c = text.charAt(at++);
            if (c != quote) {
                content.append(c);
            } else if (at < text.length() && text.charAt(at) == quote) {
                content.append(quote);
                at++;
            } else if (type == Token.Type.QUOTED_NAME && content.isEmpty()) {
                return broken(new Span(start, at), "A name in double quotes is empty.", "Empty text is ''.");
            } else {
                return new Token(type, content.toString(), new Span(start, at));
            }
        }
        return broken(
                new Span(start, text.length()),
                "The " + what + " that starts here has no end.",
                "Add a closing " + quote + ".");
    }

    private Token number() {
        int start = at;
        boolean mark = false;
        while (at < text.length() && (isDigit(text.charAt(at)) || !mark && text.charAt(at) == '.')) {
            mark |= text.charAt(at) == '.';
            at++;
        }
        if (at < text.length() && isNameStart(text.charAt(at))) {
            name();
            return broken(
                    new Span(start, at),
                    "A number runs into a name.",
                    "Numbers have digits and one point; a name that starts with a digit stands in double quotes.");
        }
        Token.Type type = mark ? Token.Type.DECIMAL : Token.Type.INTEGER;
        return new Token(type, text.substring(start, at), new Span(start, at));
    }

    private String name() {
        int start = at;
        while (at < text.length() && (isNameStart(text.charAt(at)) || isDigit(text.charAt(at)))) {
            at++;
        }
        return text.substring(start, at);
    }

    private static boolean isNameStart(char c) {
        return Character.isLetter(c) || c == '_';
    }

    private static boolean isDigit(char c) {
        return c >= '0' && c <= '9';
    }
}

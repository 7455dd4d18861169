package dev.nachlauf.core.formula;

import java.util.List;

/** Where the parser stands among the tokens. */
final class TokenCursor {
    private final List<Token> tokens;
    private final Findings findings;
    private int at;

    TokenCursor(List<Token> tokens, Findings findings) {
        this.tokens = tokens;
        this.findings = findings;
    }

    Findings findings() {
        return findings;
    }

    Token peek() {
        return tokens.get(at);
    }

    Token peek(int ahead) {
        return tokens.get(Math.min(at + ahead, tokens.size() - 1));
    }

    Token take() {
        return tokens.get(at++);
    }

    boolean takeWord(String word) {
        boolean found = peek().isWord(word);
        if (found) {
            at++;
        }
        return found;
    }

    boolean takeSymbol(String symbol) {
        boolean found = peek().isSymbol(symbol);
        if (found) {
            at++;
        }
        return found;
    }

    void expectWord(String word) {
        if (!takeWord(word)) {
            throw unexpected(word);
        }
    }

    Token expectSymbol(String symbol) {
        if (!peek().isSymbol(symbol)) {
            throw unexpected(symbol);
        }
        return take();
    }

    Findings.Stop unexpected(String expected) {
        Token token = peek();
        String found = token.type() == Token.Type.END ? "The formula ends" : "'" + token.text() + "' stands";
        return findings.stop(token.span(), found + " where " + expected + " was expected.", "");
    }
}

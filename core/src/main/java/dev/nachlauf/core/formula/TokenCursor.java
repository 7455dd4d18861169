package dev.nachlauf.core.formula;

import dev.nachlauf.core.text.Span;
import java.util.List;
import java.util.function.Predicate;

/** Where the parser stands among the tokens. */
final class TokenCursor {
    private final List<Token> tokens;
    private final Findings findings;
    private int at;
    private int complained = -1;

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

    void expectSymbol(String symbol) {
        if (!takeSymbol(symbol)) {
            throw unexpected(symbol);
        }
    }

    /** Says that something else was expected here. */
    Findings.Fault unexpected(String expected) {
        Token token = peek();
        String found = token.type() == Token.Type.END ? "The formula ends" : "'" + token.text() + "' stands";
        return fault(found + " where " + expected + " was expected.", "");
    }

    /** Says what is wrong with the token here; of one that is complained of already nothing more is said. */
    Findings.Fault fault(String sentence, String remedy) {
        Token token = peek();
        if (at == complained || token.type() == Token.Type.BROKEN) {
            return new Findings.Fault();
        }
        complained = at;
        return findings.fault(token.span(), sentence, remedy);
    }

    /**
     * Passes over what can't be understood, up to where a part of the formula may end: a comma, a closing parenthesis, a
     * word of the case around it, or the end.
     */
    void skipPart() {
        skip(token -> token.isSymbol(",")
                || token.isSymbol(")")
                || token.isWord("when")
                || token.isWord("then")
                || token.isWord("else")
                || token.isWord("end"));
    }

    /** Passes over tokens until one that ends them; parentheses and cases on the way are passed over whole. */
    private void skip(Predicate<Token> ends) {
        int parentheses = 0;
        int cases = 0;
        while (peek().type() != Token.Type.END) {
            if (parentheses == 0 && cases == 0 && ends.test(peek())) {
                return;
            }
            Token token = take();
            if (token.isSymbol("(")) {
                parentheses++;
            } else if (token.isSymbol(")")) {
                parentheses = Math.max(0, parentheses - 1);
            } else if (token.isWord("case")) {
                cases++;
            } else if (token.isWord("end")) {
                cases = Math.max(0, cases - 1);
            }
        }
    }

    /** Takes the parenthesis that closes; what stands before it without a place is said and passed over. */
    Span close() {
        if (!peek().isSymbol(")")) {
            unexpected(")");
            skip(token -> token.isSymbol(")"));
        }
        return peek().isSymbol(")") ? take().span() : peek().span();
    }

    /** Takes the end of a case; what stands before it without a place is said and passed over. */
    Span closeCase() {
        if (!peek().isWord("end")) {
            unexpected("end");
            skip(token -> token.isWord("end") || token.isSymbol(")"));
        }
        return peek().isWord("end") ? take().span() : peek().span();
    }

    /** The token taken last. */
    Token last() {
        return tokens.get(Math.max(0, at - 1));
    }
}

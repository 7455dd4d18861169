package dev.nachlauf.core.formula;

import dev.nachlauf.core.formula.Expression.Operator;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.Span;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Tokens to a tree, by recursive descent, one method per level of precedence from loose to tight: or, and, not, is,
 * comparison, between/in/like, ||, + -, * /, sign.
 */
final class Parser {
    /** Deeper nesting is refused, so that no formula can exhaust the stack of any stage. */
    static final int DEEPEST = 200;

    static final int MOST_OPERATORS = 1_000;

    private static final Map<String, Operator> COMPARISONS = Map.of(
            "=", Operator.EQUAL,
            "<>", Operator.NOT_EQUAL,
            "!=", Operator.NOT_EQUAL,
            "<", Operator.LESS,
            "<=", Operator.LESS_OR_EQUAL,
            ">", Operator.GREATER,
            ">=", Operator.GREATER_OR_EQUAL);
    private static final Set<String> RESERVED = Set.of(
            "and",
            "or",
            "not",
            "is",
            "in",
            "between",
            "like",
            "escape",
            "case",
            "when",
            "then",
            "else",
            "end",
            "as",
            "from",
            "distinct");

    private static final Set<String> TEMPORAL = Set.of("date", "time", "timestamp");

    private final List<Token> tokens;
    private final Findings findings;
    private int at;
    private int depth;
    private int operators;

    private Parser(List<Token> tokens, Findings findings) {
        this.tokens = tokens;
        this.findings = findings;
    }

    static Expression parse(List<Token> tokens, Findings findings) {
        Parser parser = new Parser(tokens, findings);
        Expression tree = parser.expression();
        if (parser.peek().type() != Token.Type.END) {
            throw parser.unexpected("an operator or the end");
        }
        return tree;
    }

    private Expression expression() {
        if (++depth > DEEPEST) {
            throw findings.stop(
                    peek().span(), "The formula is nested deeper than " + DEEPEST + " levels.", "Split it with set.");
        }
        Expression left = and();
        while (peek().isWord("or")) {
            Span operator = take().span();
            left = binary(Operator.OR, left, and(), operator);
        }
        depth--;
        return left;
    }

    /** A chain of operators is a tree as deep as the chain is long, so its length has a bound too. */
    private Expression binary(Operator operator, Expression left, Expression right, Span span) {
        if (++operators > MOST_OPERATORS) {
            throw findings.stop(
                    span, "The formula has more than " + MOST_OPERATORS + " operators.", "Split it with set.");
        }
        return new Expression.Binary(operator, left, right, span);
    }

    private Expression and() {
        Expression left = not();
        while (peek().isWord("and")) {
            Span operator = take().span();
            left = binary(Operator.AND, left, not(), operator);
        }
        return left;
    }

    private Expression not() {
        if (!peek().isWord("not")) {
            return is();
        }
        Span start = take().span();
        if (++depth > DEEPEST) {
            throw findings.stop(
                    start, "The formula is nested deeper than " + DEEPEST + " levels.", "Split it with set.");
        }
        Expression operand = not();
        depth--;
        return new Expression.Not(operand, start.to(operand.span()));
    }

    private Expression is() {
        Expression left = comparison();
        while (peek().isWord("is")) {
            take();
            boolean negated = takeWord("not");
            if (takeWord("distinct")) {
                expectWord("from");
                Expression right = comparison();
                left = new Expression.IsDistinct(
                        left, right, negated, left.span().to(right.span()));
            } else {
                Token last = peek();
                expectWord("null");
                left = new Expression.IsNull(left, negated, left.span().to(last.span()));
            }
        }
        return left;
    }

    private Expression comparison() {
        Expression left = range();
        Token token = peek();
        Operator operator = token.type() == Token.Type.SYMBOL ? COMPARISONS.get(token.text()) : null;
        if (operator == null) {
            return left;
        }
        Span span = take().span();
        Expression right = range();
        Token next = peek();
        if (next.type() == Token.Type.SYMBOL && COMPARISONS.containsKey(next.text())) {
            throw findings.stop(next.span(), "Comparisons don't form chains.", "Join two comparisons with and.");
        }
        return binary(operator, left, right, span);
    }

    private Expression range() {
        Expression left = concat();
        boolean negated =
                peek().isWord("not") && (peek(1).isWord("in") || peek(1).isWord("between") || peek(1).isWord("like"));
        if (negated) {
            take();
        }
        if (takeWord("in")) {
            expectSymbol("(");
            List<Expression> list = list();
            Span end = expectSymbol(")").span();
            return new Expression.In(left, list, negated, left.span().to(end));
        }
        if (takeWord("between")) {
            Expression low = concat();
            expectWord("and");
            Expression high = concat();
            return new Expression.Between(left, low, high, negated, left.span().to(high.span()));
        }
        if (takeWord("like")) {
            Expression pattern = concat();
            Expression escape = takeWord("escape") ? concat() : null;
            Span end = escape == null ? pattern.span() : escape.span();
            return new Expression.Like(
                    left, pattern, escape, negated, left.span().to(end));
        }
        return left;
    }

    private Expression concat() {
        Expression left = additive();
        while (peek().isSymbol("||")) {
            Span operator = take().span();
            left = binary(Operator.CONCAT, left, additive(), operator);
        }
        return left;
    }

    private Expression additive() {
        Expression left = multiplicative();
        while (peek().isSymbol("+") || peek().isSymbol("-")) {
            Token operator = take();
            left = binary(
                    operator.isSymbol("+") ? Operator.PLUS : Operator.MINUS, left, multiplicative(), operator.span());
        }
        return left;
    }

    private Expression multiplicative() {
        Expression left = sign();
        while (peek().isSymbol("*") || peek().isSymbol("/")) {
            Token operator = take();
            left = binary(operator.isSymbol("*") ? Operator.TIMES : Operator.DIVIDE, left, sign(), operator.span());
        }
        return left;
    }

    private Expression sign() {
        int signs = 0;
        Span start = peek().span();
        boolean any = false;
        while (peek().isSymbol("-") || peek().isSymbol("+")) {
            any = true;
            if (take().isSymbol("-")) {
                signs++;
            }
        }
        // the smallest integer has no positive counterpart: its sign belongs to the literal
        if (signs == 1 && peek().type() == Token.Type.INTEGER && peek().text().equals("9223372036854775808")) {
            return new Expression.Literal(Long.MIN_VALUE, Kind.INTEGER, start.to(take().span()));
        }
        Expression operand = primary();
        return any && signs % 2 == 1 ? new Expression.Negate(operand, start.to(operand.span())) : operand;
    }

    private Expression primary() {
        Token token = peek();
        return switch (token.type()) {
            case TEXT -> new Expression.Literal(take().text(), Kind.TEXT, token.span());
            case INTEGER -> integer(take());
            case DECIMAL -> new Expression.Literal(new BigDecimal(take().text()), Kind.DECIMAL, token.span());
            case PARAMETER -> new Expression.Parameter(take().text(), token.span());
            case QUOTED_NAME -> name();
            case WORD -> word(token);
            case SYMBOL -> {
                if (!token.isSymbol("(")) {
                    throw unexpected("a value");
                }
                take();
                Expression inside = expression();
                expectSymbol(")");
                yield inside;
            }
            case END -> throw unexpected("a value");
        };
    }

    private Expression integer(Token token) {
        try {
            return new Expression.Literal(Long.valueOf(token.text()), Kind.INTEGER, token.span());
        } catch (NumberFormatException e) {
            return new Expression.Literal(new BigDecimal(token.text()), Kind.DECIMAL, token.span());
        }
    }

    private Expression word(Token token) {
        String word = token.text().toLowerCase(Locale.ROOT);
        boolean call = peek(1).isSymbol("(");
        if (word.equals("null")) {
            return new Expression.Literal(null, null, take().span());
        }
        if (word.equals("true") || word.equals("false")) {
            return new Expression.Literal(word.equals("true"), Kind.BOOLEAN, take().span());
        }
        if (word.equals("case")) {
            return caseExpression();
        }
        if (word.equals("cast") && call) {
            return cast();
        }
        if (TEMPORAL.contains(word) && peek(1).type() == Token.Type.TEXT) {
            take();
            return temporal(Kind.of(word).orElseThrow(), token.span().to(peek().span()), take().text());
        }
        if (RESERVED.contains(word)) {
            throw unexpected("a value");
        }
        return call ? call() : name();
    }

    private Expression temporal(Kind kind, Span span, String text) {
        try {
            return new Expression.Literal(TextParser.of(kind, null, null).parse(text), kind, span);
        } catch (ValueProblem problem) {
            findings.add(
                    span,
                    ProblemCode.VALUE_MALFORMED,
                    problem.sentence(),
                    "Write it as in ISO 8601: date '2026-05-01'.");
            return new Expression.Literal(null, kind, span);
        }
    }

    /** A name may have parts: {@code wardens.name}. */
    private Expression name() {
        Token first = take();
        StringBuilder name = new StringBuilder(first.text());
        Span span = first.span();
        boolean quoted = first.type() == Token.Type.QUOTED_NAME;
        while (peek().isSymbol(".")) {
            take();
            Token part = peek();
            if (part.type() != Token.Type.WORD && part.type() != Token.Type.QUOTED_NAME) {
                throw unexpected("a name");
            }
            take();
            name.append('.').append(part.text());
            span = span.to(part.span());
        }
        return new Expression.Name(name.toString(), quoted, span);
    }

    private Expression call() {
        Token name = take();
        expectSymbol("(");
        List<Expression> arguments = peek().isSymbol(")") ? List.of() : list();
        Span end = expectSymbol(")").span();
        return new Expression.Call(
                name.text().toLowerCase(Locale.ROOT),
                arguments,
                name.span(),
                name.span().to(end));
    }

    private Expression caseExpression() {
        Span start = take().span();
        Expression operand = peek().isWord("when") ? null : expression();
        List<Expression.When> whens = new ArrayList<>();
        while (takeWord("when")) {
            Expression condition = expression();
            expectWord("then");
            whens.add(new Expression.When(condition, expression()));
        }
        if (whens.isEmpty()) {
            throw unexpected("when");
        }
        Expression otherwise = takeWord("else") ? expression() : null;
        Token end = peek();
        expectWord("end");
        return new Expression.Case(operand, whens, otherwise, start.to(end.span()));
    }

    private Expression cast() {
        Span start = take().span();
        expectSymbol("(");
        Expression operand = expression();
        expectWord("as");
        Token type = peek();
        Kind kind = type.type() == Token.Type.WORD ? castKind(type.text().toLowerCase(Locale.ROOT)) : null;
        if (kind == null) {
            throw findings.stop(
                    type.span(), "A type was expected here.", "Types are: " + String.join(", ", Kind.words()) + ".");
        }
        take();
        int[] sizes = {-1, -1};
        if (peek().isSymbol("(")) {
            take();
            sizes[0] = size();
            if (peek().isSymbol(",")) {
                take();
                sizes[1] = size();
            }
            expectSymbol(")");
        }
        Span span = start.to(expectSymbol(")").span());
        if (kind == Kind.DECIMAL) {
            int scale = sizes[0] >= 0 ? Math.max(0, sizes[1]) : -1;
            return new Expression.Cast(operand, kind, -1, sizes[0], scale, span);
        }
        if (sizes[1] >= 0 || sizes[0] >= 0 && kind != Kind.TEXT) {
            findings.add(
                    type.span(),
                    ProblemCode.FORMULA_SYNTAX,
                    "This type takes no such size.",
                    "Only varchar(n) and decimal(p, s) have sizes.");
        }
        return new Expression.Cast(operand, kind, sizes[0], -1, -1, span);
    }

    private static @Nullable Kind castKind(String word) {
        return switch (word) {
            case "varchar" -> Kind.TEXT;
            case "bigint", "int" -> Kind.INTEGER;
            case "numeric" -> Kind.DECIMAL;
            default -> Kind.of(word).orElse(null);
        };
    }

    private int size() {
        Token token = peek();
        if (token.type() != Token.Type.INTEGER || token.text().length() > 4) {
            throw unexpected("a size of at most 9999");
        }
        return Integer.parseInt(take().text());
    }

    private List<Expression> list() {
        List<Expression> list = new ArrayList<>();
        list.add(expression());
        while (peek().isSymbol(",")) {
            take();
            list.add(expression());
        }
        return list;
    }

    private Token peek() {
        return tokens.get(at);
    }

    private Token peek(int ahead) {
        return tokens.get(Math.min(at + ahead, tokens.size() - 1));
    }

    private Token take() {
        return tokens.get(at++);
    }

    private boolean takeWord(String word) {
        boolean found = peek().isWord(word);
        if (found) {
            at++;
        }
        return found;
    }

    private void expectWord(String word) {
        if (!takeWord(word)) {
            throw unexpected(word);
        }
    }

    private Token expectSymbol(String symbol) {
        if (!peek().isSymbol(symbol)) {
            throw unexpected(symbol);
        }
        return take();
    }

    private Findings.Stop unexpected(String expected) {
        Token token = peek();
        String found = token.type() == Token.Type.END ? "The formula ends" : "'" + token.text() + "' stands";
        return findings.stop(token.span(), found + " where " + expected + " was expected.", "");
    }
}

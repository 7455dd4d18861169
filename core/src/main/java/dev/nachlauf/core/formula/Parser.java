package dev.nachlauf.core.formula;

import dev.nachlauf.core.formula.Expression.Operator;
import dev.nachlauf.core.text.Span;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * Tokens to a tree, by recursive descent, one method per level of precedence from loose to tight: or, and, not, is,
 * comparison, between/in/like, ||, + -, * /, sign. A part that can't be understood becomes {@link Expression.Broken}, and
 * reading goes on behind it: a fault never reaches beyond the parentheses or the case that it stands in.
 */
final class Parser {
    /**
     * Deeper nesting is refused, so that no formula can exhaust the stack of any stage: quickly compiled code has the
     * largest frames, and some 190 levels of case fill the stack of a thread then.
     */
    static final int DEEPEST = 100;

    /** A chain is as deep as it is long; in quickly compiled code some 850 of them fill the stack of a thread. */
    static final int MOST_OPERATORS = 500;

    private static final Map<String, Operator> COMPARISONS = Map.of(
            "=", Operator.EQUAL,
            "<>", Operator.NOT_EQUAL,
            "!=", Operator.NOT_EQUAL,
            "<", Operator.LESS,
            "<=", Operator.LESS_OR_EQUAL,
            ">", Operator.GREATER,
            ">=", Operator.GREATER_OR_EQUAL);
    private final TokenCursor cursor;
    private final Findings findings;
    private final ValueParser values;
    private int depth;
    private int operators;

    private Parser(List<Token> tokens, Findings findings) {
        this.cursor = new TokenCursor(tokens, findings);
        this.findings = findings;
        this.values = new ValueParser(cursor, this);
    }

    static Expression parse(List<Token> tokens, Findings findings) {
        Parser parser = new Parser(tokens, findings);
        Expression tree = parser.expression();
        if (parser.cursor.peek().type() != Token.Type.END) {
            parser.cursor.unexpected("an operator or the end");
        }
        return tree;
    }

    Expression expression() {
        Token first = cursor.peek();
        int outer = depth;
        descend(first);
        try {
            return or();
        } catch (Findings.Fault e) {
            cursor.skipPart();
            return new Expression.Broken(first.span().to(cursor.last().span()));
        } finally {
            depth = outer;
        }
    }

    private void descend(Token token) {
        if (++depth > DEEPEST) {
            throw findings.stop(
                    token.span(), "The formula is nested deeper than " + DEEPEST + " levels.", "Split it with set.");
        }
    }

    private Expression or() {
        Expression left = and();
        while (cursor.peek().isWord("or")) {
            Span operator = cursor.take().span();
            left = binary(Operator.OR, left, and(), operator);
        }
        return left;
    }

    /** A chain of operators is a tree as deep as the chain is long, so its length has a bound too. */
    private Expression binary(Operator operator, Expression left, Expression right, Span span) {
        count(span);
        return new Expression.Binary(operator, left, right, span);
    }

    private void count(Span span) {
        if (++operators > MOST_OPERATORS) {
            throw findings.stop(
                    span, "The formula has more than " + MOST_OPERATORS + " operators.", "Split it with set.");
        }
    }

    private Expression and() {
        Expression left = not();
        while (cursor.peek().isWord("and")) {
            Span operator = cursor.take().span();
            left = binary(Operator.AND, left, not(), operator);
        }
        return left;
    }

    private Expression not() {
        if (!cursor.peek().isWord("not")) {
            return is();
        }
        Token start = cursor.take();
        descend(start);
        Expression operand = not();
        depth--;
        return new Expression.Not(operand, start.span().to(operand.span()));
    }

    private Expression is() {
        Expression left = comparison();
        while (cursor.peek().isWord("is")) {
            count(cursor.take().span());
            boolean negated = cursor.takeWord("not");
            if (cursor.takeWord("distinct")) {
                cursor.expectWord("from");
                Expression right = comparison();
                left = new Expression.IsDistinct(
                        left, right, negated, left.span().to(right.span()));
            } else {
                left = test(left, negated);
            }
        }
        return left;
    }

    /** {@code is null} and the tests of truth. */
    private Expression test(Expression left, boolean negated) {
        Token word = cursor.peek();
        Span span = left.span().to(word.span());
        if (cursor.takeWord("null")) {
            return new Expression.IsNull(left, negated, span);
        }
        if (cursor.takeWord("true") || cursor.takeWord("false")) {
            return new Expression.IsTruth(left, word.isWord("true"), negated, span);
        }
        if (cursor.takeWord("unknown")) {
            return new Expression.IsTruth(left, null, negated, span);
        }
        throw cursor.unexpected("null, true, false, unknown or distinct from");
    }

    private Expression comparison() {
        Expression left = range();
        Token token = cursor.peek();
        Operator operator = token.type() == Token.Type.SYMBOL ? COMPARISONS.get(token.text()) : null;
        if (operator == null) {
            return left;
        }
        Span span = cursor.take().span();
        Expression right = range();
        Token next = cursor.peek();
        if (next.type() == Token.Type.SYMBOL && COMPARISONS.containsKey(next.text())) {
            throw cursor.fault(
                    "Comparisons can't be chained: a < b < c is not allowed.", "Join two comparisons with and.");
        }
        return binary(operator, left, right, span);
    }

    private Expression range() {
        Expression left = concat();
        boolean negated = cursor.peek().isWord("not")
                && (cursor.peek(1).isWord("in")
                        || cursor.peek(1).isWord("between")
                        || cursor.peek(1).isWord("like"));
        if (negated) {
            cursor.take();
        }
        if (cursor.takeWord("in")) {
            cursor.expectSymbol("(");
            List<Expression> list = list();
            Span end = cursor.close();
            return new Expression.In(left, list, negated, left.span().to(end));
        }
        if (cursor.takeWord("between")) {
            Expression low = concat();
            cursor.expectWord("and");
            Expression high = concat();
            return new Expression.Between(left, low, high, negated, left.span().to(high.span()));
        }
        if (cursor.takeWord("like")) {
            Expression pattern = concat();
            Expression escape = cursor.takeWord("escape") ? concat() : null;
            Span end = escape == null ? pattern.span() : escape.span();
            return new Expression.Like(
                    left, pattern, escape, negated, left.span().to(end));
        }
        return left;
    }

    /** The levels above comparison words: what stands on a side of in, between and like. */
    Expression concat() {
        Expression left = additive();
        while (cursor.peek().isSymbol("||")) {
            Span operator = cursor.take().span();
            left = binary(Operator.CONCAT, left, additive(), operator);
        }
        return left;
    }

    private Expression additive() {
        Expression left = multiplicative();
        while (cursor.peek().isSymbol("+") || cursor.peek().isSymbol("-")) {
            Token operator = cursor.take();
            left = binary(
                    operator.isSymbol("+") ? Operator.PLUS : Operator.MINUS, left, multiplicative(), operator.span());
        }
        return left;
    }

    private Expression multiplicative() {
        Expression left = sign();
        while (cursor.peek().isSymbol("*") || cursor.peek().isSymbol("/")) {
            Token operator = cursor.take();
            left = binary(operator.isSymbol("*") ? Operator.TIMES : Operator.DIVIDE, left, sign(), operator.span());
        }
        return left;
    }

    private Expression sign() {
        int signs = 0;
        Span start = cursor.peek().span();
        boolean any = false;
        while (cursor.peek().isSymbol("-") || cursor.peek().isSymbol("+")) {
            any = true;
            if (cursor.take().isSymbol("-")) {
                signs++;
            }
        }
        // the smallest integer has no positive counterpart: its sign belongs to the literal
        if (signs == 1
                && cursor.peek().type() == Token.Type.INTEGER
                && cursor.peek().text().equals("9223372036854775808")) {
            return new Expression.Literal(
                    Long.MIN_VALUE, Kind.INTEGER, start.to(cursor.take().span()));
        }
        Expression operand = values.value();
        return any && signs % 2 == 1 ? new Expression.Negate(operand, start.to(operand.span())) : operand;
    }

    /** Expressions between commas. */
    List<Expression> list() {
        List<Expression> list = new ArrayList<>();
        list.add(expression());
        while (cursor.takeSymbol(",")) {
            list.add(expression());
        }
        return list;
    }
}

package dev.nachlauf.core.formula;

import dev.nachlauf.core.text.Span;
import dev.nachlauf.core.value.Kind;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The tree of a formula as it was written; every node knows its span. */
sealed interface Expression {
    Span span();

    /** A literal; {@code value} and {@code kind} are null for the word null. */
    record Literal(@Nullable Object value, @Nullable Kind kind, Span span) implements Expression {}

    /** A field; in double quotes it is found exactly only. */
    record Name(String name, boolean quoted, Span span) implements Expression {}

    record Parameter(String name, Span span) implements Expression {}

    record Not(Expression operand, Span span) implements Expression {}

    record Negate(Expression operand, Span span) implements Expression {}

    /** {@code operatorSpan} is where a complaint about both sides stands. */
    record Binary(Operator operator, Expression left, Expression right, Span operatorSpan) implements Expression {
        @Override
        public Span span() {
            return left.span().to(right.span());
        }
    }

    record IsNull(Expression operand, boolean negated, Span span) implements Expression {}

    record IsDistinct(Expression left, Expression right, boolean negated, Span span) implements Expression {}

    record In(Expression operand, List<Expression> list, boolean negated, Span span) implements Expression {}

    record Between(Expression operand, Expression low, Expression high, boolean negated, Span span)
            implements Expression {}

    record Like(
            Expression operand,
            Expression pattern,
            @Nullable Expression escape,
            boolean negated,
            Span span) implements Expression {}

    /** {@code operand} is null in the searched form; {@code otherwise} is null where there is no else. */
    record Case(
            @Nullable Expression operand,
            List<When> whens,
            @Nullable Expression otherwise,
            Span span) implements Expression {}

    /** One branch of a case. */
    record When(Expression condition, Expression result) {}

    /** {@code length} is the n of varchar(n), else -1; {@code scale} that of decimal(p, s), else -1. */
    record Cast(Expression operand, Kind kind, int length, int precision, int scale, Span span) implements Expression {}

    record Extract(DatePart part, Expression operand, Span span) implements Expression {}

    /** Stands only beside + and - of a date, time or timestamp. */
    record Stretch(Interval interval, Span span) implements Expression {}

    /** {@code value} is null for unknown. */
    record IsTruth(Expression operand, @Nullable Boolean value, boolean negated, Span span) implements Expression {}

    /** What could not be understood, which has been said. */
    record Broken(Span span) implements Expression {}

    record Call(String name, List<Expression> arguments, Span nameSpan, Span span) implements Expression {}

    /** Operators with two sides. */
    enum Operator {
        OR("or"),
        AND("and"),
        EQUAL("="),
        NOT_EQUAL("<>"),
        LESS("<"),
        LESS_OR_EQUAL("<="),
        GREATER(">"),
        GREATER_OR_EQUAL(">="),
        CONCAT("||"),
        PLUS("+"),
        MINUS("-"),
        TIMES("*"),
        DIVIDE("/");

        private final String symbol;

        Operator(String symbol) {
            this.symbol = symbol;
        }

        String symbol() {
            return symbol;
        }
    }
}

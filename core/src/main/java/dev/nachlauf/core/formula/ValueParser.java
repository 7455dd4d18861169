package dev.nachlauf.core.formula;

import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.Span;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.TextParser;
import dev.nachlauf.core.value.ValueProblem;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** The tightest level of the parser: literals, names, parentheses, and what looks like a call. */
final class ValueParser {
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

    private static final Set<String> FORMS = Set.of("cast", "extract", "substring", "position", "trim");

    private final TokenCursor cursor;
    private final Parser parser;

    ValueParser(TokenCursor cursor, Parser parser) {
        this.cursor = cursor;
        this.parser = parser;
    }

    /** What can stand where a value is wanted. */
    Expression value() {
        Token token = cursor.peek();
        return switch (token.type()) {
            case TEXT -> new Expression.Literal(cursor.take().text(), Kind.TEXT, token.span());
            case INTEGER -> integer(cursor.take());
            case DECIMAL -> new Expression.Literal(new BigDecimal(cursor.take().text()), Kind.DECIMAL, token.span());
            case PARAMETER -> new Expression.Parameter(cursor.take().text(), token.span());
            case QUOTED_NAME -> name();
            case WORD -> word(token);
            case SYMBOL -> {
                if (!token.isSymbol("(")) {
                    throw cursor.unexpected("a value");
                }
                cursor.take();
                Expression inside = parser.expression();
                cursor.close();
                yield inside;
            }
            case BROKEN -> new Expression.Broken(cursor.take().span());
            case END -> throw cursor.unexpected("a value");
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
        boolean call = cursor.peek(1).isSymbol("(");
        if (word.equals("null")) {
            return new Expression.Literal(null, null, cursor.take().span());
        }
        if (word.equals("true") || word.equals("false")) {
            return new Expression.Literal(
                    word.equals("true"), Kind.BOOLEAN, cursor.take().span());
        }
        if (word.equals("case")) {
            return caseExpression();
        }
        if (call && FORMS.contains(word)) {
            return form(word);
        }
        if (word.equals("interval") && cursor.peek(1).type() == Token.Type.TEXT) {
            return interval();
        }
        if (TEMPORAL.contains(word) && cursor.peek(1).type() == Token.Type.TEXT) {
            cursor.take();
            return temporal(
                    Kind.of(word).orElseThrow(),
                    token.span().to(cursor.peek().span()),
                    cursor.take().text());
        }
        if (RESERVED.contains(word)) {
            throw cursor.unexpected("a value");
        }
        return call ? call() : name();
    }

    /** A fault between the parentheses of a form ends at the closing one. */
    private Expression form(String word) {
        Token name = cursor.take();
        cursor.expectSymbol("(");
        try {
            return switch (word) {
                case "cast" -> cast(name);
                case "extract" -> extract(name);
                case "substring" -> substring(name);
                case "position" -> position(name);
                case "trim" -> trim(name);
                default -> throw new IllegalStateException("no form " + word);
            };
        } catch (Findings.Fault e) {
            return new Expression.Broken(name.span().to(cursor.close()));
        }
    }

    private Expression interval() {
        Span start = cursor.take().span();
        Token amount = cursor.take();
        Token word = cursor.peek();
        Interval.Unit unit =
                word.type() == Token.Type.WORD ? Interval.Unit.of(word.text()).orElse(null) : null;
        if (unit == null) {
            throw cursor.unexpected("a unit (" + String.join(", ", Interval.Unit.words()) + ")");
        }
        cursor.take();
        Optional<Interval> interval = Interval.of(unit, amount.text());
        if (interval.isEmpty()) {
            cursor.findings()
                    .add(
                            amount.span(),
                            ProblemCode.VALUE_MALFORMED,
                            "'" + amount.text() + "' is no number of " + unit.word() + "s.",
                            "Write it as interval '3' " + unit.word() + ".");
        }
        return new Expression.Stretch(interval.orElse(new Interval(unit, 0)), start.to(word.span()));
    }

    private Expression extract(Token name) {
        Token word = cursor.peek();
        Optional<DatePart> part = word.type() == Token.Type.WORD ? DatePart.of(word.text()) : Optional.empty();
        if (part.isEmpty()) {
            throw cursor.fault(
                    "A part of a date or time was expected here.",
                    "Parts are: " + String.join(", ", DatePart.words()) + ".");
        }
        cursor.take();
        cursor.expectWord("from");
        Expression operand = parser.expression();
        return new Expression.Extract(part.get(), operand, name.span().to(cursor.close()));
    }

    /** {@code substring(text from start for count)} or with commas. */
    private Expression substring(Token name) {
        List<Expression> arguments = new ArrayList<>();
        arguments.add(parser.expression());
        if (cursor.takeWord("from")) {
            arguments.add(parser.expression());
            if (cursor.takeWord("for")) {
                arguments.add(parser.expression());
            }
        } else if (cursor.takeSymbol(",")) {
            arguments.addAll(parser.list());
        }
        return called("substring", name, arguments);
    }

    /** {@code position(part in text)} or with a comma. */
    private Expression position(Token name) {
        List<Expression> arguments = new ArrayList<>();
        arguments.add(parser.concat());
        if (cursor.takeWord("in") || cursor.takeSymbol(",")) {
            arguments.addAll(parser.list());
        }
        return called("position", name, arguments);
    }

    /** {@code trim(both characters from text)}, in parts, or with a comma. */
    private Expression trim(Token name) {
        Token side = cursor.peek();
        boolean leading = cursor.takeWord("leading");
        boolean trailing = !leading && cursor.takeWord("trailing");
        boolean sided = leading || trailing || cursor.takeWord("both");
        String function = leading ? "trim_start" : trailing ? "trim_end" : "trim";
        if (cursor.takeWord("from")) {
            return called(function, name, List.of(parser.expression()));
        }
        List<Expression> arguments = new ArrayList<>();
        arguments.add(parser.expression());
        if (cursor.takeWord("from")) {
            arguments.addFirst(parser.expression());
        } else if (sided) {
            throw cursor.unexpected("from, behind " + side.text() + ",");
        } else if (cursor.takeSymbol(",")) {
            arguments.addAll(parser.list());
        }
        return called(function, name, arguments);
    }

    private Expression called(String function, Token name, List<Expression> arguments) {
        return new Expression.Call(function, arguments, name.span(), name.span().to(cursor.close()));
    }

    private Expression temporal(Kind kind, Span span, String text) {
        try {
            return new Expression.Literal(TextParser.of(kind, null, null).parse(text), kind, span);
        } catch (ValueProblem problem) {
            cursor.findings()
                    .add(
                            span,
                            ProblemCode.VALUE_MALFORMED,
                            problem.sentence(),
                            "Write it as in ISO 8601: date '2026-05-01'.");
            return new Expression.Literal(null, kind, span);
        }
    }

    /** A name may have parts: {@code wardens.name}. */
    private Expression name() {
        Token first = cursor.take();
        StringBuilder name = new StringBuilder(first.text());
        Span span = first.span();
        boolean quoted = first.type() == Token.Type.QUOTED_NAME;
        while (cursor.peek().isSymbol(".")) {
            cursor.take();
            Token part = cursor.peek();
            if (part.type() != Token.Type.WORD && part.type() != Token.Type.QUOTED_NAME) {
                throw cursor.unexpected("a name");
            }
            cursor.take();
            name.append('.').append(part.text());
            span = span.to(part.span());
        }
        return new Expression.Name(name.toString(), quoted, span);
    }

    private Expression call() {
        Token name = cursor.take();
        cursor.expectSymbol("(");
        List<Expression> arguments = cursor.peek().isSymbol(")") ? List.of() : parser.list();
        return called(name.text().toLowerCase(Locale.ROOT), name, arguments);
    }

    /** A fault between {@code case} and {@code end} ends there. */
    private Expression caseExpression() {
        Span start = cursor.take().span();
        try {
            return caseExpression(start);
        } catch (Findings.Fault e) {
            return new Expression.Broken(start.to(cursor.closeCase()));
        }
    }

    private Expression caseExpression(Span start) {
        Expression operand = cursor.peek().isWord("when") ? null : parser.expression();
        List<Expression.When> whens = new ArrayList<>();
        while (cursor.takeWord("when")) {
            Expression condition = parser.expression();
            cursor.expectWord("then");
            whens.add(new Expression.When(condition, parser.expression()));
        }
        if (whens.isEmpty()) {
            throw cursor.unexpected("when");
        }
        Expression otherwise = cursor.takeWord("else") ? parser.expression() : null;
        return new Expression.Case(operand, whens, otherwise, start.to(cursor.closeCase()));
    }

    private Expression cast(Token name) {
        Expression operand = parser.expression();
        cursor.expectWord("as");
        Token type = cursor.peek();
        Kind kind = type.type() == Token.Type.WORD ? castKind(type.text().toLowerCase(Locale.ROOT)) : null;
        if (kind == null) {
            throw cursor.fault("A type was expected here.", "Types are: " + String.join(", ", Kind.words()) + ".");
        }
        cursor.take();
        int[] sizes = {-1, -1};
        if (cursor.peek().isSymbol("(")) {
            cursor.take();
            sizes[0] = size();
            if (cursor.peek().isSymbol(",")) {
                cursor.take();
                sizes[1] = size();
            }
            cursor.close();
        }
        Span span = name.span().to(cursor.close());
        if (kind == Kind.DECIMAL) {
            int scale = sizes[0] >= 0 ? Math.max(0, sizes[1]) : -1;
            return new Expression.Cast(operand, kind, -1, sizes[0], scale, span);
        }
        if (sizes[1] >= 0 || sizes[0] >= 0 && kind != Kind.TEXT) {
            cursor.findings()
                    .add(
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
        Token token = cursor.peek();
        if (token.type() != Token.Type.INTEGER || token.text().length() > 4) {
            throw cursor.unexpected("a size of at most 9999");
        }
        return Integer.parseInt(cursor.take().text());
    }
}

package dev.nachlauf.core.formula;

import dev.nachlauf.core.function.Function;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.List;
import java.util.Objects;

/**
 * Checked tree to closures. Truth is {@link Boolean} or null for unknown; and, or and case go left to right and stop
 * early.
 */
final class Compiler {
    private Compiler() {}

    static Evaluator compile(Checked tree) {
        return switch (tree) {
            case Checked.Constant constant -> row -> constant.value();
            case Checked.Slot slot -> slot(slot.index());
            case Checked.Not not -> not(compile(not.operand()));
            case Checked.And and -> and(compile(and.left()), compile(and.right()));
            case Checked.Or or -> or(compile(or.left()), compile(or.right()));
            case Checked.Compare compare -> compare(compare);
            case Checked.Arithmetic arithmetic -> arithmetic(arithmetic);
            case Checked.Concat concat -> concat(compile(concat.left()), compile(concat.right()));
            case Checked.IsNull isNull -> {
                Evaluator operand = compile(isNull.operand());
                yield row -> operand.evaluate(row) == null;
            }
            case Checked.IsDistinct distinct -> {
                Evaluator left = compile(distinct.left());
                Evaluator right = compile(distinct.right());
                yield row -> !Values.same(left.evaluate(row), right.evaluate(row));
            }
            case Checked.In in -> in(compile(in.operand()), compile(in.list()));
            case Checked.Like like -> like(like);
            case Checked.Choose choose -> choose(choose);
            case Checked.FirstFilled first -> firstFilled(compile(first.operands()));
            case Checked.Widen widen -> {
                Evaluator operand = compile(widen.operand());
                yield row -> operand.evaluate(row) instanceof Long value ? BigDecimal.valueOf(value) : null;
            }
            case Checked.Cast cast -> {
                Evaluator operand = compile(cast.operand());
                yield row -> {
                    Object value = operand.evaluate(row);
                    return value == null ? null : Casts.cast(value, cast);
                };
            }
            case Checked.Invoke invoke -> invoke(invoke.function(), compile(invoke.arguments()));
        };
    }

    private static Evaluator[] compile(List<Checked> trees) {
        return trees.stream().map(Compiler::compile).toArray(Evaluator[]::new);
    }

    private static Evaluator slot(int index) {
        return row -> {
            Object value = row[index];
            if (value == BrokenInput.VALUE) {
                throw BrokenInput.INSTANCE;
            }
            return value;
        };
    }

    private static Evaluator not(Evaluator operand) {
        return row -> operand.evaluate(row) instanceof Boolean truth ? !truth : null;
    }

    private static Evaluator and(Evaluator left, Evaluator right) {
        return row -> {
            Object first = left.evaluate(row);
            if (Boolean.FALSE.equals(first)) {
                return false;
            }
            Object second = right.evaluate(row);
            return Boolean.FALSE.equals(second) ? Boolean.FALSE : first == null ? null : second;
        };
    }

    private static Evaluator or(Evaluator left, Evaluator right) {
        return row -> {
            Object first = left.evaluate(row);
            if (Boolean.TRUE.equals(first)) {
                return true;
            }
            Object second = right.evaluate(row);
            return Boolean.TRUE.equals(second) ? Boolean.TRUE : first == null ? null : second;
        };
    }

    private static Evaluator compare(Checked.Compare compare) {
        Evaluator left = compile(compare.left());
        Evaluator right = compile(compare.right());
        return switch (compare.operator()) {
            case EQUAL -> comparison(left, right, order -> order == 0);
            case NOT_EQUAL -> comparison(left, right, order -> order != 0);
            case LESS -> comparison(left, right, order -> order < 0);
            case LESS_OR_EQUAL -> comparison(left, right, order -> order <= 0);
            case GREATER -> comparison(left, right, order -> order > 0);
            case GREATER_OR_EQUAL -> comparison(left, right, order -> order >= 0);
            case OR, AND, CONCAT, PLUS, MINUS, TIMES, DIVIDE ->
                throw new IllegalStateException(compare.operator() + " compares nothing");
        };
    }

    private static Evaluator comparison(Evaluator left, Evaluator right, java.util.function.IntPredicate holds) {
        return row -> {
            Object a = left.evaluate(row);
            if (a == null) {
                return null;
            }
            Object b = right.evaluate(row);
            return b == null ? null : (Boolean) holds.test(Values.compare(a, b));
        };
    }

    /** Computes with two values that are not null. */
    private interface Computation {
        Object of(Object left, Object right);
    }

    private static Evaluator arithmetic(Checked.Arithmetic arithmetic) {
        Evaluator left = compile(arithmetic.left());
        Evaluator right = compile(arithmetic.right());
        Computation computation = switch (arithmetic.kind()) {
            case INTEGER -> integers(arithmetic);
            case DECIMAL -> decimals(arithmetic);
            case DATE -> Compiler.dates(arithmetic.operator() == Expression.Operator.PLUS);
            case TEXT, BOOLEAN, TIME, TIMESTAMP ->
                throw new IllegalStateException("no arithmetic of " + arithmetic.kind());
        };
        return row -> {
            Object a = left.evaluate(row);
            Object b = a == null ? null : right.evaluate(row);
            return a == null || b == null ? null : computation.of(a, b);
        };
    }

    private static Computation integers(Checked.Arithmetic arithmetic) {
        Computation exact = switch (arithmetic.operator()) {
            case PLUS -> (a, b) -> Math.addExact((Long) a, (Long) b);
            case MINUS -> (a, b) -> Math.subtractExact((Long) a, (Long) b);
            case TIMES -> (a, b) -> Math.multiplyExact((Long) a, (Long) b);
            case DIVIDE -> (a, b) -> divideIntegers((Long) a, (Long) b);
            default -> throw new IllegalStateException("not arithmetic: " + arithmetic.operator());
        };
        return (a, b) -> {
            try {
                return exact.of(a, b);
            } catch (ArithmeticException e) {
                throw Values.outOfRange();
            }
        };
    }

    private static Object divideIntegers(long dividend, long divisor) {
        if (divisor == 0) {
            return Values.divide(BigDecimal.ONE, BigDecimal.ZERO);
        }
        return Math.divideExact(dividend, divisor);
    }

    private static Computation decimals(Checked.Arithmetic arithmetic) {
        return switch (arithmetic.operator()) {
            case PLUS -> (a, b) -> Values.decimal(a).add(Values.decimal(b));
            case MINUS -> (a, b) -> Values.decimal(a).subtract(Values.decimal(b));
            case TIMES -> (a, b) -> Values.decimal(a).multiply(Values.decimal(b));
            case DIVIDE -> (a, b) -> Values.divide(Values.decimal(a), Values.decimal(b));
            default -> throw new IllegalStateException("not arithmetic: " + arithmetic.operator());
        };
    }

    private static Computation dates(boolean plus) {
        return (a, b) -> {
            LocalDate date = (LocalDate) a;
            if (b instanceof LocalDate other) {
                return date.toEpochDay() - other.toEpochDay();
            }
            try {
                return plus ? date.plusDays((Long) b) : date.minusDays((Long) b);
            } catch (DateTimeException | ArithmeticException e) {
                throw Values.outOfRange();
            }
        };
    }

    private static Evaluator concat(Evaluator left, Evaluator right) {
        return row -> {
            String a = Values.text(left.evaluate(row));
            String b = a == null ? null : Values.text(right.evaluate(row));
            return a == null || b == null ? null : a.concat(b);
        };
    }

    private static Evaluator in(Evaluator operand, Evaluator[] list) {
        return row -> {
            Object value = operand.evaluate(row);
            if (value == null) {
                return null;
            }
            boolean unknown = false;
            for (Evaluator member : list) {
                Object candidate = member.evaluate(row);
                if (candidate == null) {
                    unknown = true;
                } else if (Values.same(value, candidate)) {
                    return true;
                }
            }
            return unknown ? null : false;
        };
    }

    private static Evaluator like(Checked.Like like) {
        Evaluator operand = compile(like.operand());
        Evaluator pattern = compile(like.pattern());
        Evaluator escape = like.escape() == null ? row -> "\\" : compile(like.escape());
        LikePattern constant = like.pattern() instanceof Checked.Constant p
                        && p.value() instanceof String text
                        && like.escape() == null
                ? LikePattern.of(text, "\\")
                : null;
        return row -> {
            String value = (String) operand.evaluate(row);
            if (value == null) {
                return null;
            }
            if (constant != null) {
                return constant.matches(value);
            }
            String symbols = (String) pattern.evaluate(row);
            String escaping = (String) escape.evaluate(row);
            return symbols == null || escaping == null
                    ? null
                    : (Boolean) LikePattern.of(symbols, escaping).matches(value);
        };
    }

    private static Evaluator choose(Checked.Choose choose) {
        Evaluator[] conditions = choose.branches().stream()
                .map(branch -> compile(branch.condition()))
                .toArray(Evaluator[]::new);
        Evaluator[] results = choose.branches().stream()
                .map(branch -> compile(branch.result()))
                .toArray(Evaluator[]::new);
        Evaluator otherwise = compile(choose.otherwise());
        return row -> {
            for (int i = 0; i < conditions.length; i++) {
                if (Objects.equals(conditions[i].evaluate(row), Boolean.TRUE)) {
                    return results[i].evaluate(row);
                }
            }
            return otherwise.evaluate(row);
        };
    }

    private static Evaluator firstFilled(Evaluator[] operands) {
        return row -> {
            for (Evaluator operand : operands) {
                Object value = operand.evaluate(row);
                if (value != null) {
                    return value;
                }
            }
            return null;
        };
    }

    private static Evaluator invoke(Function function, Evaluator[] arguments) {
        return row -> {
            Object[] values = new Object[arguments.length];
            for (int i = 0; i < arguments.length; i++) {
                Object value = arguments[i].evaluate(row);
                if (value == null) {
                    return null;
                }
                values[i] = value;
            }
            return function.body().apply(values);
        };
    }
}

package dev.nachlauf.core.formula;

import dev.nachlauf.core.function.Function;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.temporal.TemporalAccessor;
import java.util.Arrays;
import java.util.LinkedList;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * Checked tree to closures. Truth is {@link Boolean} or null for unknown; and, or, case, coalesce, in and between go
 * left to right and stop early; everything else computes all of its operands, so an error is one beside a null too.
 */
final class Compiler {
    private Compiler() {}

    static Operand compile(Checked tree) {
        Evaluator evaluator = closure(tree);
        return evaluator instanceof Operand operand ? operand : Operand.computed(evaluator);
    }

    private static Evaluator closure(Checked tree) {
        return switch (tree) {
            case Checked.Slot slot -> Operand.slot(slot.index());
            case Checked.Constant constant -> Operand.constant(constant.value());
            case Checked.Not not -> not(compile(not.operand()));
            case Checked.And and -> and(compile(and.left()), compile(and.right()));
            case Checked.Or or -> or(compile(or.left()), compile(or.right()));
            case Checked.Compare compare -> compare(compare);
            case Checked.Arithmetic arithmetic -> arithmetic(arithmetic);
            case Checked.Move move -> {
                Operand operand = compile(move.operand());
                yield row -> {
                    Object value = operand.evaluate(row);
                    return value == null ? null : move.interval().addTo(value, move.plus());
                };
            }
            case Checked.Extract extract -> {
                Operand operand = compile(extract.operand());
                yield row -> operand.evaluate(row) instanceof TemporalAccessor value
                        ? extract.part().of(value)
                        : null;
            }
            case Checked.Concat concat -> concat(compile(parts(concat)));
            case Checked.IsNull isNull -> {
                Operand operand = compile(isNull.operand());
                yield row -> operand.evaluate(row) == null;
            }
            case Checked.IsTruth truth -> {
                Operand operand = compile(truth.operand());
                yield row -> Objects.equals(operand.evaluate(row), truth.value());
            }
            case Checked.IsDistinct distinct -> {
                Operand left = compile(distinct.left());
                Operand right = compile(distinct.right());
                yield row -> !Values.same(left.evaluate(row), right.evaluate(row));
            }
            case Checked.Between between ->
                between(compile(between.operand()), compile(between.low()), compile(between.high()));
            case Checked.In in -> in(compile(in.operand()), compile(in.list()));
            case Checked.Like like -> like(like);
            case Checked.Choose choose -> choose(choose);
            case Checked.ChooseBy choose -> chooseBy(choose);
            case Checked.NullIf nullIf -> nullIf(compile(nullIf.operand()), compile(nullIf.other()));
            case Checked.Extreme extreme -> extreme(compile(extreme.operands()), extreme.greatest() ? 1 : -1);
            case Checked.FirstFilled first -> firstFilled(compile(first.operands()));
            case Checked.Widen widen -> {
                Operand operand = compile(widen.operand());
                yield row -> operand.evaluate(row) instanceof Long value ? BigDecimal.valueOf(value) : null;
            }
            case Checked.Cast cast -> {
                Operand operand = compile(cast.operand());
                yield row -> {
                    Object value = operand.evaluate(row);
                    return value == null ? null : Casts.cast(value, cast);
                };
            }
            case Checked.Invoke invoke -> invoke(invoke.body(), compile(invoke.arguments()));
            case Checked.Translate translate -> translate(translate);
            case Checked.CallPiece call -> {
                Operand[] arguments = compile(call.arguments());
                Operand body = compile(call.body());
                yield row -> {
                    @Nullable Object[] inside = new Object[arguments.length];
                    for (int i = 0; i < arguments.length; i++) {
                        inside[i] = arguments[i].evaluate(row);
                    }
                    return body.evaluate(inside);
                };
            }
        };
    }

    private static Operand[] compile(List<Checked> trees) {
        return trees.stream().map(Compiler::compile).toArray(Operand[]::new);
    }

    private static Evaluator not(Operand operand) {
        return row -> operand.evaluate(row) instanceof Boolean truth ? !truth : null;
    }

    private static Evaluator and(Operand left, Operand right) {
        return row -> {
            Object first = left.evaluate(row);
            if (Boolean.FALSE.equals(first)) {
                return false;
            }
            Object second = right.evaluate(row);
            return Boolean.FALSE.equals(second) ? Boolean.FALSE : first == null ? null : second;
        };
    }

    private static Evaluator or(Operand left, Operand right) {
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
        Operand left = compile(compare.left());
        Operand right = compile(compare.right());
        return switch (compare.operator()) {
            case EQUAL, NOT_EQUAL -> {
                boolean wanted = compare.operator() == Expression.Operator.EQUAL;
                yield compare.right() instanceof Checked.Constant constant && constant.value() instanceof String text
                        ? equality(left, text, wanted)
                        : equality(left, right, wanted);
            }
            case LESS -> comparison(left, right, order -> order < 0);
            case LESS_OR_EQUAL -> comparison(left, right, order -> order <= 0);
            case GREATER -> comparison(left, right, order -> order > 0);
            case GREATER_OR_EQUAL -> comparison(left, right, order -> order >= 0);
            case OR, AND, CONCAT, PLUS, MINUS, TIMES, DIVIDE ->
                throw new IllegalStateException(compare.operator() + " compares nothing");
        };
    }

    /** With a text that stands in the formula, which most conditions ask for. */
    private static Evaluator equality(Operand operand, String text, boolean wanted) {
        return row -> {
            Object value = operand.evaluate(row);
            return value == null ? null : (Boolean) (text.equals(value) == wanted);
        };
    }

    private static Evaluator equality(Operand left, Operand right, boolean wanted) {
        return row -> {
            Object a = left.evaluate(row);
            Object b = right.evaluate(row);
            return a == null || b == null ? null : (Boolean) (Values.same(a, b) == wanted);
        };
    }

    private static Evaluator comparison(Operand left, Operand right, java.util.function.IntPredicate holds) {
        return row -> {
            Object a = left.evaluate(row);
            Object b = right.evaluate(row);
            return a == null || b == null ? null : (Boolean) holds.test(Values.compare(a, b));
        };
    }

    /** Computes with two values that are not null. */
    private interface Computation {
        Object of(Object left, Object right);
    }

    private static Evaluator arithmetic(Checked.Arithmetic arithmetic) {
        Operand left = compile(arithmetic.left());
        Operand right = compile(arithmetic.right());
        Computation computation = switch (arithmetic.kind()) {
            case INTEGER -> integers(arithmetic);
            case DECIMAL -> decimals(arithmetic);
            case DATE -> Compiler.dates(arithmetic.operator() == Expression.Operator.PLUS);
            case TEXT, BOOLEAN, TIME, TIMESTAMP ->
                throw new IllegalStateException("no arithmetic of " + arithmetic.kind());
        };
        return row -> {
            Object a = left.evaluate(row);
            Object b = right.evaluate(row);
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
            throw Values.divisionByZero();
        }
        return Math.divideExact(dividend, divisor);
    }

    private static Computation decimals(Checked.Arithmetic arithmetic) {
        return switch (arithmetic.operator()) {
            case PLUS -> (a, b) -> Values.bounded(Values.decimal(a).add(Values.decimal(b)));
            case MINUS -> (a, b) -> Values.bounded(Values.decimal(a).subtract(Values.decimal(b)));
            case TIMES -> (a, b) -> Values.bounded(Values.decimal(a).multiply(Values.decimal(b)));
            case DIVIDE -> (a, b) -> Values.bounded(Values.divide(Values.decimal(a), Values.decimal(b)));
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
                return Values.inCalendar(plus ? date.plusDays((Long) b) : date.minusDays((Long) b));
            } catch (DateTimeException | ArithmeticException e) {
                throw Values.outsideCalendar();
            }
        };
    }

    /** The operands of a chain of {@code ||}, first to last. */
    private static List<Checked> parts(Checked.Concat concat) {
        LinkedList<Checked> parts = new LinkedList<>();
        Checked left = concat;
        while (left instanceof Checked.Concat chain) {
            parts.addFirst(chain.right());
            left = chain.left();
        }
        parts.addFirst(left);
        return parts;
    }

    /** Two and three parts, which is what people write, are joined at once; longer chains make texts in between. */
    private static Evaluator concat(Operand[] parts) {
        Operand first = parts[0];
        Operand second = parts[1];
        if (parts.length == 2) {
            return row -> {
                String a = Values.text(first.evaluate(row));
                String b = Values.text(second.evaluate(row));
                if (a == null || b == null) {
                    return null;
                }
                Values.requireShort((long) a.length() + b.length());
                return a.concat(b);
            };
        }
        Operand third = parts[2];
        Evaluator joined = row -> {
            String a = Values.text(first.evaluate(row));
            String b = Values.text(second.evaluate(row));
            String c = Values.text(third.evaluate(row));
            if (a == null || b == null || c == null) {
                return null;
            }
            Values.requireShort((long) a.length() + b.length() + c.length());
            return a + b + c;
        };
        if (parts.length == 3) {
            return joined;
        }
        Operand[] rest = Arrays.copyOfRange(parts, 2, parts.length);
        rest[0] = Operand.computed(joined);
        return concat(rest);
    }

    private static Evaluator in(Operand operand, Operand[] list) {
        return row -> {
            Object value = operand.evaluate(row);
            if (value == null) {
                return null;
            }
            boolean unknown = false;
            for (Operand member : list) {
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
        Operand operand = compile(like.operand());
        Operand pattern = compile(like.pattern());
        Operand escape = like.escape() == null ? Operand.constant("\\") : compile(like.escape());
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
        Operand[] conditions = conditions(choose.branches());
        Operand[] results = results(choose.branches());
        Operand otherwise = compile(choose.otherwise());
        return row -> {
            for (int i = 0; i < conditions.length; i++) {
                if (Boolean.TRUE.equals(conditions[i].evaluate(row))) {
                    return results[i].evaluate(row);
                }
            }
            return otherwise.evaluate(row);
        };
    }

    private static Evaluator firstFilled(Operand[] operands) {
        return row -> {
            for (Operand operand : operands) {
                Object value = operand.evaluate(row);
                if (value != null) {
                    return value;
                }
            }
            return null;
        };
    }

    /** One shape per number of arguments, so that a call allocates nothing. */
    private static Evaluator invoke(Function.Body body, Operand[] arguments) {
        Operand first = arguments[0];
        return switch (arguments.length) {
            case 1 ->
                row -> {
                    Object a = first.evaluate(row);
                    return a == null ? null : body.apply(a, null, null);
                };
            case 2 -> {
                Operand second = arguments[1];
                yield row -> {
                    Object a = first.evaluate(row);
                    Object b = second.evaluate(row);
                    return a == null || b == null ? null : body.apply(a, b, null);
                };
            }
            case Function.MOST_PARAMETERS -> {
                Operand second = arguments[1];
                Operand third = arguments[2];
                yield row -> {
                    Object a = first.evaluate(row);
                    Object b = second.evaluate(row);
                    Object c = third.evaluate(row);
                    return a == null || b == null || c == null ? null : body.apply(a, b, c);
                };
            }
            default -> throw new IllegalStateException("no function has " + arguments.length + " parameters");
        };
    }

    private static Evaluator translate(Checked.Translate translate) {
        Operand operand = compile(translate.operand());
        Operand scope = translate.scope() == null ? Operand.constant(null) : compile(translate.scope());
        Translation translation = translate.translation();
        return row -> translation.translate(Values.text(operand.evaluate(row)), Values.text(scope.evaluate(row)));
    }

    private static Evaluator nullIf(Operand operand, Operand other) {
        return row -> {
            Object value = operand.evaluate(row);
            Object second = other.evaluate(row);
            return value != null && second != null && Values.compare(value, second) == 0 ? null : value;
        };
    }

    private static Evaluator between(Operand operand, Operand low, Operand high) {
        return row -> {
            Object value = operand.evaluate(row);
            if (value == null) {
                return null;
            }
            Object least = low.evaluate(row);
            if (least != null && Values.compare(value, least) < 0) {
                return false;
            }
            Object most = high.evaluate(row);
            if (most != null && Values.compare(value, most) > 0) {
                return false;
            }
            return least == null || most == null ? null : true;
        };
    }

    private static Evaluator extreme(Operand[] operands, int sign) {
        return row -> {
            Object extreme = null;
            for (Operand operand : operands) {
                Object value = operand.evaluate(row);
                if (value != null && (extreme == null || Values.compare(value, extreme) * sign > 0)) {
                    extreme = value;
                }
            }
            return extreme;
        };
    }

    private static Evaluator chooseBy(Checked.ChooseBy choose) {
        Operand operand = compile(choose.operand());
        Operand[] values = conditions(choose.branches());
        Operand[] results = results(choose.branches());
        Operand otherwise = compile(choose.otherwise());
        return row -> {
            Object wanted = operand.evaluate(row);
            for (int i = 0; wanted != null && i < values.length; i++) {
                Object value = values[i].evaluate(row);
                if (value != null && Values.compare(wanted, value) == 0) {
                    return results[i].evaluate(row);
                }
            }
            return otherwise.evaluate(row);
        };
    }

    private static Operand[] conditions(List<Checked.Branch> branches) {
        return compile(branches.stream().map(Checked.Branch::condition).toList());
    }

    private static Operand[] results(List<Checked.Branch> branches) {
        return compile(branches.stream().map(Checked.Branch::result).toList());
    }
}

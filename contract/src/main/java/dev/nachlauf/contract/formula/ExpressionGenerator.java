package dev.nachlauf.contract.formula;

import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.Values;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import java.util.random.RandomGenerator;

/**
 * Random expressions of a kind, in the spelling of formulas and of PostgreSQL. Where the two spell a thing differently,
 * or give a result another type, the difference stands here and nowhere else.
 */
final class ExpressionGenerator {
    private static final List<String> PATTERNS = List.of("%", "_%", "%a%", "H-___", "50\\%\\_a", "", "% %", "%ß%");
    private static final List<String> COMPARISONS = List.of("=", "<>", "<", "<=", ">", ">=");
    private static final List<String> DATE_PARTS =
            List.of("year", "isoyear", "quarter", "month", "week", "day", "doy", "dow", "isodow");
    private static final List<String> TIME_PARTS = List.of("hour", "minute");

    private final RandomGenerator random;

    ExpressionGenerator(RandomGenerator random) {
        this.random = random;
    }

    /** An expression of any kind. */
    Spelling any(int depth) {
        return of(kind(), depth);
    }

    private Kind kind() {
        Kind[] kinds = Kind.values();
        return kinds[random.nextInt(kinds.length)];
    }

    private Spelling of(Kind kind, int depth) {
        if (depth <= 0) {
            return leaf(kind);
        }
        if (random.nextInt(6) == 0) {
            return choice(kind, depth - 1);
        }
        if (random.nextInt(8) == 0) {
            return flat(kind);
        }
        return switch (kind) {
            case INTEGER -> integer(depth - 1);
            case DECIMAL -> decimal(depth - 1);
            case TEXT -> text(depth - 1);
            case BOOLEAN -> truth(depth - 1);
            case DATE -> date(depth - 1);
            case TIME -> time(depth - 1);
            case TIMESTAMP -> timestamp(depth - 1);
        };
    }

    private Spelling leaf(Kind kind) {
        return random.nextInt(5) == 0 ? literal(kind) : column(kind);
    }

    private Spelling column(Kind kind) {
        List<String> names = ReferenceRows.SHAPE.fields().stream()
                .filter(field -> field.kind() == kind)
                .map(Field::name)
                .toList();
        return Spelling.alike(one(names), kind);
    }

    /** Literals are cast in PostgreSQL, for there they have narrower types of their own. */
    private Spelling literal(Kind kind) {
        String text = String.valueOf(Values.text(ReferenceRows.value(kind, random)));
        String quoted = "'" + text.replace("'", "''") + "'";
        return switch (kind) {
            case INTEGER -> new Spelling("(" + text + ")", "(" + quoted + "::bigint)", kind, false);
            case DECIMAL -> new Spelling("cast(" + quoted + " as decimal)", "(" + quoted + "::numeric)", kind, false);
            case TEXT -> new Spelling(quoted, "(" + quoted + "::text)", kind, false);
            case BOOLEAN -> Spelling.alike(text, kind);
            case DATE, TIME, TIMESTAMP -> Spelling.alike("(" + kind.word() + " " + quoted + ")", kind);
        };
    }

    private Spelling choice(Kind kind, int depth) {
        return switch (random.nextInt(5)) {
            case 0 -> early("coalesce(%s, %s)", kind, of(kind, depth), of(kind, depth));
            case 1 -> call("nullif(%s, %s)", kind, of(kind, depth), of(kind, depth));
            case 2 ->
                call(
                        random.nextBoolean() ? "greatest(%s, %s)" : "least(%s, %s)",
                        kind,
                        of(kind, depth),
                        of(kind, depth));
            case 3 ->
                early(
                        "case when %s then %s else %s end",
                        kind, of(Kind.BOOLEAN, depth), of(kind, depth), of(kind, depth));
            default -> {
                Kind by = kind();
                yield early(
                        "case %s when %s then %s when %s then %s end",
                        kind, of(by, depth), leaf(by), of(kind, depth), leaf(by), of(kind, depth));
            }
        };
    }

    /** A chain of operators without parentheses inside: precedence alone says what it means. */
    private Spelling flat(Kind kind) {
        Spelling chain = switch (kind) {
            case INTEGER -> chain(kind, List.of("+", "-", "*", "/"), () -> signed(leaf(Kind.INTEGER)));
            case DECIMAL -> chain(kind, List.of("+", "-", "*", "/"), () -> signed(number()));
            case TEXT -> call("%s || %s", kind, leaf(kind), chain(kind, List.of("||"), this::joined));
            case BOOLEAN -> chain(kind, List.of("and", "or"), this::condition);
            case DATE, TIME, TIMESTAMP -> leaf(kind);
        };
        // a decimal is one whatever its leaves are; around the chain stand parentheses
        return kind == Kind.DECIMAL
                ? casted("(cast(0 as decimal) + %s)", "(0::numeric + %s)", kind, chain)
                : call("(%s)", kind, chain);
    }

    private Spelling chain(Kind kind, List<String> operators, Supplier<Spelling> operand) {
        Spelling chain = operand.get();
        for (int more = random.nextInt(4); more >= 0; more--) {
            String form = "%s " + one(operators) + " %s";
            chain = kind == Kind.BOOLEAN
                    ? early(form, kind, chain, operand.get())
                    : call(form, kind, chain, operand.get());
        }
        return chain;
    }

    private Spelling number() {
        return leaf(random.nextBoolean() ? Kind.DECIMAL : Kind.INTEGER);
    }

    private Spelling signed(Spelling operand) {
        return random.nextInt(4) == 0 ? call("- %s", operand.kind(), operand) : operand;
    }

    /** What can stand between two ||: a text, or a sum. */
    private Spelling joined() {
        return random.nextBoolean()
                ? leaf(Kind.TEXT)
                : chain(Kind.INTEGER, List.of("+", "-", "*"), () -> leaf(Kind.INTEGER));
    }

    private Spelling condition() {
        Kind truth = Kind.BOOLEAN;
        String not = random.nextInt(3) == 0 ? "not " : "";
        return switch (random.nextInt(7)) {
            case 0 -> call(not + "%s", truth, leaf(truth));
            case 1 ->
                call(not + "%s + %s " + one(COMPARISONS) + " %s * %s", truth, number(), number(), number(), number());
            case 2 ->
                early(not + "%s " + not() + "between %s - %s and - %s", truth, number(), number(), number(), number());
            case 3 ->
                call(not + "%s || %s " + not() + "like '" + one(PATTERNS) + "'", truth, leaf(Kind.TEXT), joined());
            case 4 -> call(not + "%s " + one(COMPARISONS) + " %s is " + not() + "null", truth, number(), number());
            case 5 -> early(not + "%s - %s " + not() + "in (%s, %s)", truth, number(), number(), number(), number());
            default -> call(not + "%s is " + not() + one(List.of("true", "false", "unknown")), truth, leaf(truth));
        };
    }

    private Spelling integer(int depth) {
        Kind integer = Kind.INTEGER;
        Spelling a = of(integer, depth);
        return switch (random.nextInt(13)) {
            case 0 -> call("(%s + %s)", integer, a, of(integer, depth));
            case 1 -> call("(%s - %s)", integer, a, of(integer, depth));
            case 2 -> call("(%s * %s)", integer, a, of(integer, depth));
            case 3 -> call("(%s / %s)", integer, a, of(integer, depth));
            case 4 -> call("mod(%s, %s)", integer, a, of(integer, depth));
            case 5 -> call("(- %s)", integer, a);
            case 6 -> call("abs(%s)", integer, a);
            case 7 -> casted("cast(%s as integer)", "cast(%s as bigint)", integer, of(Kind.DECIMAL, depth));
            case 8 -> casted("char_length(%s)", "char_length(%s)::bigint", integer, of(Kind.TEXT, depth));
            case 9 ->
                casted(
                        "position(%s in %s)",
                        "position(%s in %s)::bigint", integer, leaf(Kind.TEXT), of(Kind.TEXT, depth));
            case 10 -> casted("(%s - %s)", "(%s - %s)::bigint", integer, of(Kind.DATE, depth), of(Kind.DATE, depth));
            case 11 -> {
                boolean ofDate = random.nextBoolean();
                String part = one(ofDate ? DATE_PARTS : TIME_PARTS);
                Kind from = random.nextBoolean() ? Kind.TIMESTAMP : ofDate ? Kind.DATE : Kind.TIME;
                yield casted(
                        "extract(" + part + " from %s)",
                        "extract(" + part + " from %s)::bigint",
                        integer,
                        of(from, depth));
            }
            default -> casted("sign(%s)", "sign(%s)::bigint", integer, of(Kind.DECIMAL, depth));
        };
    }

    private Spelling decimal(int depth) {
        Kind decimal = Kind.DECIMAL;
        Spelling a = of(decimal, depth);
        Spelling mixed = of(random.nextBoolean() ? decimal : Kind.INTEGER, depth);
        return switch (random.nextInt(14)) {
            case 0 -> call("(%s + %s)", decimal, a, mixed);
            case 1 -> call("(%s - %s)", decimal, mixed, a);
            case 2 -> call("(%s * %s)", decimal, a, mixed);
            case 3 -> call("(%s / %s)", decimal, mixed, a);
            case 4 -> call("(%s / %s)", decimal, a, mixed);
            case 5 -> call("(- %s)", decimal, a);
            case 6 -> call("abs(%s)", decimal, a);
            case 7 -> call("mod(%s, %s)", decimal, a, of(decimal, depth));
            case 8 -> call("floor(%s)", decimal, a);
            case 9 -> call("ceiling(%s)", decimal, a);
            case 10 -> call("round(%s)", decimal, a);
            case 11 -> call("round(%s, " + (random.nextInt(8) - 3) + ")", decimal, a);
            case 12 -> casted("cast(%s as decimal)", "cast(%s as numeric)", decimal, of(Kind.INTEGER, depth));
            default ->
                call("extract(second from %s)", decimal, of(random.nextBoolean() ? Kind.TIME : Kind.TIMESTAMP, depth));
        };
    }

    private Spelling text(int depth) {
        Kind text = Kind.TEXT;
        Spelling a = of(text, depth);
        int n = random.nextInt(12) - 3;
        return switch (random.nextInt(20)) {
            case 0 -> call("(%s || %s)", text, a, of(text, depth));
            case 1 -> call("(%s || %s)", text, a, of(kind(), depth));
            case 2 -> call("upper(%s)", text, a);
            case 3 -> call("lower(%s)", text, a);
            case 4 -> call("initcap(%s)", text, a);
            case 5 -> call("trim(%s)", text, a);
            case 6 -> call("trim(" + one(List.of("both", "leading", "trailing")) + " %s from %s)", text, leaf(text), a);
            case 7 -> call("replace(%s, %s, %s)", text, a, leaf(text), leaf(text));
            case 8 -> call("substring(%s from " + n + ")", text, a);
            case 9 -> call("substring(%s from " + n + " for " + (random.nextInt(8) - 1) + ")", text, a);
            case 10 -> call("left(%s, " + n + ")", text, a);
            case 11 -> call("right(%s, " + n + ")", text, a);
            case 12 -> casted("pad_left(%s, " + n + ", %s)", "lpad(%s, " + n + ", %s)", text, a, leaf(text));
            case 13 -> casted("pad_right(%s, " + n + ", %s)", "rpad(%s, " + n + ", %s)", text, a, leaf(text));
            case 14 -> call("repeat(%s, " + n + ")", text, a);
            case 15 -> call("split_part(%s, %s, " + n + ")", text, a, leaf(text));
            case 16 -> call("cast(%s as varchar(" + (random.nextInt(8) + 1) + "))", text, a);
            case 17 -> casted("trim_start(%s, %s)", "ltrim(%s, %s)", text, a, leaf(text));
            default -> call("cast(%s as text)", text, of(kind(), depth));
        };
    }

    private Spelling truth(int depth) {
        Kind truth = Kind.BOOLEAN;
        Kind by = kind();
        return switch (random.nextInt(14)) {
            case 0, 1 -> call("(%s " + one(COMPARISONS) + " %s)", truth, of(by, depth), of(by, depth));
            case 2 -> call("(%s " + one(COMPARISONS) + " %s)", truth, of(Kind.INTEGER, depth), of(Kind.DECIMAL, depth));
            case 3 -> early("(%s and %s)", truth, of(truth, depth), of(truth, depth));
            case 4 -> early("(%s or %s)", truth, of(truth, depth), of(truth, depth));
            case 5 -> call("(not %s)", truth, of(truth, depth));
            case 6 -> call("(%s is " + not() + "null)", truth, of(by, depth));
            case 7 -> call("(%s is " + not() + "distinct from %s)", truth, of(by, depth), of(by, depth));
            case 8 -> call("(%s is " + not() + one(List.of("true", "false", "unknown")) + ")", truth, of(truth, depth));
            case 9 ->
                early("(%s " + not() + "in (%s, %s, %s))", truth, of(by, depth), leaf(by), leaf(by), of(by, depth));
            case 10 -> early("(%s " + not() + "between %s and %s)", truth, of(by, depth), of(by, depth), of(by, depth));
            case 11 -> call("(%s " + not() + "like '" + one(PATTERNS) + "')", truth, of(Kind.TEXT, depth));
            case 12 -> call("(%s like 'H!_%%' escape '!')", truth, of(Kind.TEXT, depth));
            default -> call("starts_with(%s, %s)", truth, of(Kind.TEXT, depth), leaf(Kind.TEXT));
        };
    }

    private Spelling date(int depth) {
        Kind date = Kind.DATE;
        Spelling a = of(date, depth);
        int n = random.nextInt(800) - 400;
        return switch (random.nextInt(9)) {
            case 0 -> call("(%s + " + n + ")", date, a);
            case 1 -> call("(%s - (" + n + "))", date, a);
            case 2 -> {
                String unit = one(List.of("year", "month", "day"));
                String move = one(List.of("+", "-")) + " interval '" + random.nextInt(40) + "' " + unit;
                yield casted("(%s " + move + ")", "cast(%s " + move + " as date)", date, a);
            }
            case 3 -> call("cast(%s as date)", date, of(Kind.TIMESTAMP, depth));
            case 4 -> casted("first_of_month(%s)", "cast(date_trunc('month', %s) as date)", date, a);
            case 5 ->
                casted(
                        "last_of_month(%s)",
                        "cast(date_trunc('month', %s) + interval '1 month - 1 day' as date)", date, a);
            case 6 -> casted("add_months(%s, " + n + ")", "cast(%s + interval '" + n + " month' as date)", date, a);
            case 7 -> call("cast(cast(%s as text) as date)", date, a);
            default ->
                call(
                        "make_date(2024 + " + random.nextInt(3) + ", " + (random.nextInt(13) + 1) + ", "
                                + (random.nextInt(31) + 1) + ")",
                        date);
        };
    }

    private Spelling time(int depth) {
        Kind time = Kind.TIME;
        return switch (random.nextInt(2)) {
            case 0 -> call("(%s " + move(List.of("hour", "minute", "second")) + ")", time, of(time, depth));
            default -> call("cast(%s as time)", time, of(Kind.TIMESTAMP, depth));
        };
    }

    private Spelling timestamp(int depth) {
        Kind timestamp = Kind.TIMESTAMP;
        return switch (random.nextInt(3)) {
            case 0 ->
                call(
                        "(%s " + move(List.of("year", "month", "day", "hour", "minute", "second")) + ")",
                        timestamp,
                        of(timestamp, depth));
            case 1 -> call("cast(%s as timestamp)", timestamp, of(Kind.DATE, depth));
            default -> call("cast(cast(%s as text) as timestamp)", timestamp, of(timestamp, depth));
        };
    }

    private String move(List<String> units) {
        return one(List.of("+", "-")) + " interval '" + random.nextInt(100) + "' " + one(units);
    }

    private String not() {
        return random.nextInt(3) == 0 ? "not " : "";
    }

    private <T> T one(List<T> of) {
        return ReferenceRows.one(of, random);
    }

    private static Spelling call(String form, Kind kind, Spelling... parts) {
        return casted(form, form, kind, parts);
    }

    private static Spelling early(String form, Kind kind, Spelling... parts) {
        Spelling call = casted(form, form, kind, parts);
        return new Spelling(call.ours(), call.theirs(), kind, true);
    }

    private static Spelling casted(String ours, String theirs, Kind kind, Spelling... parts) {
        List<Object> mine = new ArrayList<>();
        List<Object> other = new ArrayList<>();
        boolean early = false;
        for (Spelling part : parts) {
            mine.add(part.ours());
            other.add(part.theirs());
            early |= part.stopsEarly();
        }
        return new Spelling(filled(ours, mine), filled(theirs, other), kind, early);
    }

    /** Only {@code %s} is a place; a like pattern may hold other percent signs. */
    private static String filled(String form, List<Object> parts) {
        StringBuilder out = new StringBuilder();
        int at = 0;
        for (Object part : parts) {
            int place = form.indexOf("%s", at);
            out.append(form, at, place).append(part);
            at = place + 2;
        }
        return out.append(form.substring(at)).toString();
    }
}

package dev.nachlauf.core.formula;

import dev.nachlauf.core.formula.Checked.Branch;
import dev.nachlauf.core.formula.Expression.Operator;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.text.Span;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Finds every problem of a tree at once and turns it into its checked form: names become slots, the kind of each node
 * is inferred, and forms that others can express ({@code between}, the simple {@code case}, {@code nullif}) are
 * rewritten.
 */
final class Checker {
    /** What a node is and what is known of it. */
    record Node(Checked tree, Type type) {}

    /** A formula that may be compiled if nothing was found. */
    record Result(Checked tree, Optional<Kind> kind, List<Integer> slots) {}

    static final Node BROKEN = new Node(new Checked.Constant(null), Type.BROKEN);

    private final Scope scope;
    private final Findings findings;
    private final TreeSet<Integer> slots = new TreeSet<>();
    private final CallChecker calls;

    private Checker(Scope scope, Findings findings, PieceCount pieces) {
        this.scope = scope;
        this.findings = findings;
        this.calls = new CallChecker(this, scope, findings, pieces);
    }

    static Result check(Expression tree, Scope scope, Findings findings) {
        return check(tree, scope, findings, new PieceCount());
    }

    static Result check(Expression tree, Scope scope, Findings findings, PieceCount pieces) {
        Checker checker = new Checker(scope, findings, pieces);
        Node node = checker.check(tree);
        Optional<Kind> kind = node.type instanceof Type.Of of ? Optional.of(of.kind()) : Optional.empty();
        return new Result(node.tree, kind, List.copyOf(checker.slots));
    }

    Node check(Expression expression) {
        return switch (expression) {
            case Expression.Literal literal ->
                new Node(
                        new Checked.Constant(literal.value()),
                        literal.kind() == null ? Type.NULL : Type.of(literal.kind()));
            case Expression.Name name -> name(name);
            case Expression.Parameter parameter -> parameter(parameter);
            case Expression.Not not ->
                new Node(new Checked.Not(wanted(not.operand(), Kind.BOOLEAN, "not")), Type.of(Kind.BOOLEAN));
            case Expression.Negate negate -> negate(negate);
            case Expression.Binary binary -> binary(binary);
            case Expression.IsNull isNull -> truth(new Checked.IsNull(check(isNull.operand()).tree), isNull.negated());
            case Expression.IsDistinct distinct -> {
                Node left = check(distinct.left());
                Node right = check(distinct.right());
                requireAlike(left, right, distinct.span());
                yield truth(new Checked.IsDistinct(left.tree, right.tree), distinct.negated());
            }
            case Expression.In in -> in(in);
            case Expression.Between between -> between(between);
            case Expression.Like like -> like(like);
            case Expression.Case choice -> choice(choice);
            case Expression.Cast cast -> cast(cast);
            case Expression.Extract extract -> extract(extract);
            case Expression.Stretch stretch -> {
                mismatch(
                        stretch.span(),
                        "An interval is no value: it stands behind + or - of a date, time or timestamp.",
                        "Such as opens + interval '1' month.");
                yield BROKEN;
            }
            case Expression.IsTruth truth ->
                truth(new Checked.IsTruth(wanted(truth.operand(), Kind.BOOLEAN, "is"), truth.value()), truth.negated());
            case Expression.Call call -> calls.check(call);
            case Expression.Broken ignored -> BROKEN;
        };
    }

    private Node name(Expression.Name name) {
        List<Integer> found = scope.shape().find(name.name(), name.quoted());
        if (found.size() == 1) {
            int slot = found.getFirst();
            slots.add(slot);
            return new Node(
                    new Checked.Slot(slot),
                    Type.of(scope.shape().fields().get(slot).kind()));
        }
        Scope.Fixed fact = scope.surroundings().facts().get(name.name().toLowerCase(Locale.ROOT));
        if (found.isEmpty() && fact != null) {
            return new Node(new Checked.Constant(fact.value()), Type.of(fact.kind()));
        }
        if (found.isEmpty()) {
            List<String> known = new ArrayList<>(scope.shape().names().stream()
                    .filter(one -> one.indexOf(0) != 0)
                    .toList());
            known.addAll(scope.surroundings().facts().keySet());
            boolean below = scope.isBelow(name.name());
            String fields = known.isEmpty() ? "There are no fields here." : "Fields here: " + shortList(known) + ".";
            findings.add(
                    name.span(),
                    ProblemCode.FIELD_UNKNOWN,
                    below
                            ? name.name() + " is made further down; a formula sees only what stands above it."
                            : "There is no field " + name.name() + " here.",
                    below ? "Move what makes it above this." : NearestNames.suggestion(name.name(), known, fields));
        } else {
            findings.add(
                    name.span(),
                    ProblemCode.FIELD_AMBIGUOUS,
                    name.name() + " can mean several fields that differ in case only.",
                    "Write the exact name in double quotes.");
        }
        return BROKEN;
    }

    private static String shortList(List<String> names) {
        return String.join(", ", names.subList(0, Math.min(12, names.size()))) + (names.size() > 12 ? ", …" : "");
    }

    private Node parameter(Expression.Parameter parameter) {
        Map<String, Scope.Fixed> known = scope.surroundings().parameters();
        Scope.Fixed fixed = known.get(parameter.name());
        if (fixed == null) {
            findings.add(
                    parameter.span(),
                    ProblemCode.PARAMETER_UNKNOWN,
                    "The job has no parameter " + parameter.name() + ".",
                    NearestNames.suggestion(parameter.name(), known.keySet(), "Declare it under parameters."));
            return BROKEN;
        }
        return new Node(new Checked.Constant(fixed.value()), Type.of(fixed.kind()));
    }

    private Node extract(Expression.Extract extract) {
        Node operand = check(extract.operand());
        if (operand.type instanceof Type.Of of && !extract.part().isPartOf(of.kind())) {
            mismatch(
                    extract.span(),
                    of.kind().word() + " has no " + extract.part().word() + ".",
                    of.kind() == Kind.TEXT
                            ? "Declare the field as a date under read, or use cast(… as date) or parse_date."
                            : "");
        }
        return new Node(
                new Checked.Extract(operand.tree, extract.part()),
                Type.of(extract.part().kind()));
    }

    private Node negate(Expression.Negate negate) {
        Node operand = check(negate.operand());
        if (!isNumber(operand.type)) {
            mismatch(negate.span(), "A sign needs a number, but this is " + operand.type.word() + ".", "");
            return BROKEN;
        }
        Kind kind = operand.type.is(Kind.DECIMAL) ? Kind.DECIMAL : Kind.INTEGER;
        return new Node(
                new Checked.Arithmetic(Operator.MINUS, kind, new Checked.Constant(zero(kind)), operand.tree),
                operand.type);
    }

    private static Object zero(Kind kind) {
        return kind == Kind.INTEGER ? (Object) 0L : java.math.BigDecimal.ZERO;
    }

    private Node binary(Expression.Binary binary) {
        return switch (binary.operator()) {
            case AND ->
                new Node(
                        new Checked.And(
                                wanted(binary.left(), Kind.BOOLEAN, "and"),
                                wanted(binary.right(), Kind.BOOLEAN, "and")),
                        Type.of(Kind.BOOLEAN));
            case OR ->
                new Node(
                        new Checked.Or(
                                wanted(binary.left(), Kind.BOOLEAN, "or"), wanted(binary.right(), Kind.BOOLEAN, "or")),
                        Type.of(Kind.BOOLEAN));
            case EQUAL, NOT_EQUAL, LESS, LESS_OR_EQUAL, GREATER, GREATER_OR_EQUAL -> {
                Node left = check(binary.left());
                Node right = check(binary.right());
                requireAlike(left, right, binary.operatorSpan());
                yield new Node(new Checked.Compare(binary.operator(), left.tree, right.tree), Type.of(Kind.BOOLEAN));
            }
            case CONCAT -> concat(binary);
            case PLUS, MINUS, TIMES, DIVIDE -> arithmetic(binary);
        };
    }

    private Node concat(Expression.Binary binary) {
        Node left = check(binary.left());
        Node right = check(binary.right());
        boolean text = left.type.fits(Kind.TEXT) || right.type.fits(Kind.TEXT);
        if (!text) {
            mismatch(
                    binary.operatorSpan(),
                    "|| needs text on one side, but here stand " + left.type.word() + " and " + right.type.word() + ".",
                    "Numbers are added with +; cast(… as text) makes text.");
        }
        return new Node(new Checked.Concat(left.tree, right.tree), Type.of(Kind.TEXT));
    }

    private Node arithmetic(Expression.Binary binary) {
        if (binary.right() instanceof Expression.Stretch stretch
                && (binary.operator() == Operator.PLUS || binary.operator() == Operator.MINUS)) {
            return move(binary, binary.left(), stretch);
        }
        if (binary.left() instanceof Expression.Stretch stretch && binary.operator() == Operator.PLUS) {
            return move(binary, binary.right(), stretch);
        }
        Node left = check(binary.left());
        Node right = check(binary.right());
        Operator operator = binary.operator();
        boolean dates = operator == Operator.MINUS && left.type.is(Kind.DATE) && right.type.is(Kind.DATE)
                || (operator == Operator.MINUS || operator == Operator.PLUS)
                        && left.type.is(Kind.DATE)
                        && right.type.is(Kind.INTEGER);
        if (dates) {
            Kind kind = right.type.is(Kind.DATE) ? Kind.INTEGER : Kind.DATE;
            return new Node(new Checked.Arithmetic(operator, Kind.DATE, left.tree, right.tree), Type.of(kind));
        }
        if (!isNumber(left.type) || !isNumber(right.type)) {
            Type wrong = isNumber(left.type) ? right.type : left.type;
            mismatch(
                    binary.operatorSpan(),
                    operator.symbol() + " needs numbers on both sides, but one is " + wrong.word() + ".",
                    wrong.is(Kind.TEXT)
                            ? "Text is joined with ||; declare the field as a number under read, or use cast(… as decimal)."
                            : "");
            return BROKEN;
        }
        Kind kind = left.type.is(Kind.DECIMAL) || right.type.is(Kind.DECIMAL) ? Kind.DECIMAL : Kind.INTEGER;
        return new Node(
                new Checked.Arithmetic(operator, kind, widened(left, kind), widened(right, kind)), Type.of(kind));
    }

    private Node move(Expression.Binary binary, Expression moved, Expression.Stretch stretch) {
        Node operand = check(moved);
        boolean days = stretch.interval().unit().ofDays();
        boolean fits = !(operand.type instanceof Type.Of of)
                || of.kind() == Kind.TIMESTAMP
                || of.kind() == Kind.DATE && days
                || of.kind() == Kind.TIME && !days;
        if (!fits) {
            mismatch(
                    binary.operatorSpan(),
                    "An interval of " + stretch.interval().unit().word() + "s can't be added to " + operand.type.word()
                            + ".",
                    operand.type.is(Kind.DATE) ? "cast(… as timestamp) has hours." : "");
            return BROKEN;
        }
        boolean plus = binary.operator() == Operator.PLUS;
        return new Node(new Checked.Move(operand.tree, stretch.interval(), plus), operand.type);
    }

    private Node in(Expression.In in) {
        Node operand = check(in.operand());
        List<Checked> list = new ArrayList<>();
        for (Expression member : in.list()) {
            Node node = check(member);
            requireAlike(operand, node, member.span());
            list.add(node.tree);
        }
        return truth(new Checked.In(operand.tree, list), in.negated());
    }

    private Node between(Expression.Between between) {
        Node operand = check(between.operand());
        Node low = check(between.low());
        Node high = check(between.high());
        requireAlike(operand, low, between.low().span());
        requireAlike(operand, high, between.high().span());
        return truth(new Checked.Between(operand.tree, low.tree, high.tree), between.negated());
    }

    private Node like(Expression.Like like) {
        Checked operand = wanted(like.operand(), Kind.TEXT, "like");
        Checked pattern = wanted(like.pattern(), Kind.TEXT, "like");
        Checked escape = like.escape() == null ? null : wanted(like.escape(), Kind.TEXT, "escape");
        String problem = LikePattern.problem(pattern, escape);
        if (problem != null) {
            findings.add(like.pattern().span(), ProblemCode.FORMULA_SYNTAX, problem, "");
        }
        return truth(new Checked.Like(operand, pattern, escape), like.negated());
    }

    private Node choice(Expression.Case choice) {
        Node operand = choice.operand() == null ? null : check(choice.operand());
        List<Checked> conditions = new ArrayList<>();
        List<Node> results = new ArrayList<>();
        for (Expression.When when : choice.whens()) {
            if (operand == null) {
                conditions.add(wanted(when.condition(), Kind.BOOLEAN, "when"));
            } else {
                Node condition = check(when.condition());
                requireAlike(operand, condition, when.condition().span());
                conditions.add(condition.tree);
            }
            results.add(check(when.result()));
        }
        results.add(
                choice.otherwise() == null
                        ? new Node(new Checked.Constant(null), Type.NULL)
                        : check(choice.otherwise()));
        Type type = common(results, choice.span(), "The branches of a case");
        List<Branch> branches = new ArrayList<>();
        for (int i = 0; i < conditions.size(); i++) {
            branches.add(new Branch(conditions.get(i), widened(results.get(i), type)));
        }
        Checked otherwise = widened(results.getLast(), type);
        return new Node(
                operand == null
                        ? new Checked.Choose(branches, otherwise)
                        : new Checked.ChooseBy(operand.tree, branches, otherwise),
                type);
    }

    private Node cast(Expression.Cast cast) {
        Node operand = check(cast.operand());
        if (operand.type instanceof Type.Of of && !Casts.allowed(of.kind(), cast.kind())) {
            mismatch(
                    cast.span(),
                    of.kind().word() + " can't be cast to " + cast.kind().word() + ".",
                    "");
        }
        return new Node(
                new Checked.Cast(operand.tree, cast.kind(), cast.length(), cast.precision(), cast.scale()),
                Type.of(cast.kind()));
    }

    private Checked wanted(Expression expression, Kind kind, String by) {
        Node node = check(expression);
        if (!node.type.fits(kind)) {
            mismatch(expression.span(), by + " needs " + kind.word() + ", but this is " + node.type.word() + ".", "");
        }
        return widened(node, kind);
    }

    void requireAlike(Node left, Node right, Span span) {
        boolean alike = !(left.type instanceof Type.Of a)
                || !(right.type instanceof Type.Of b)
                || a.kind() == b.kind()
                || a.kind().isNumber() && b.kind().isNumber();
        if (!alike) {
            boolean text = left.type.is(Kind.TEXT) || right.type.is(Kind.TEXT);
            mismatch(
                    span,
                    left.type.word() + " can't be compared with " + right.type.word() + ".",
                    text ? "Declare the field's kind under read, or use cast." : "");
        }
    }

    /** The one type of several alternatives; integer gives way to decimal. */
    Type common(List<Node> nodes, Span span, String what) {
        Type common = Type.NULL;
        for (Node node : nodes) {
            if (node.type == Type.BROKEN || node.type instanceof Type.Null) {
                continue;
            }
            if (common instanceof Type.Null || common.is(Kind.INTEGER) && node.type.is(Kind.DECIMAL)) {
                common = node.type;
            } else if (common instanceof Type.Of of && !node.type.fits(of.kind())) {
                mismatch(
                        span,
                        what + " are of different kinds: " + common.word() + " and " + node.type.word() + ".",
                        "");
                return Type.BROKEN;
            }
        }
        return common;
    }

    static Checked widened(Node node, Type wanted) {
        return wanted instanceof Type.Of of ? widened(node, of.kind()) : node.tree;
    }

    static Checked widened(Node node, Kind wanted) {
        return wanted == Kind.DECIMAL && node.type.is(Kind.INTEGER) ? new Checked.Widen(node.tree) : node.tree;
    }

    private static Node truth(Checked tree, boolean negated) {
        return new Node(negated ? new Checked.Not(tree) : tree, Type.of(Kind.BOOLEAN));
    }

    private static boolean isNumber(Type type) {
        return type.fits(Kind.DECIMAL);
    }

    void mismatch(Span span, String sentence, @Nullable String remedy) {
        findings.add(span, ProblemCode.TYPE_MISMATCH, sentence, remedy == null ? "" : remedy);
    }
}

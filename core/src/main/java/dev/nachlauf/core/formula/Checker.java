package dev.nachlauf.core.formula;

import dev.nachlauf.core.formula.Checked.Branch;
import dev.nachlauf.core.formula.Expression.Operator;
import dev.nachlauf.core.function.Function;
import dev.nachlauf.core.function.FunctionTable;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.text.Span;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
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
    private record Node(Checked tree, Type type) {}

    /** A formula that may be compiled if nothing was found. */
    record Result(Checked tree, Optional<Kind> kind, List<Integer> slots) {}

    private static final Node BROKEN = new Node(new Checked.Constant(null), Type.BROKEN);

    private final Scope scope;
    private final Findings findings;
    private final TreeSet<Integer> slots = new TreeSet<>();

    private Checker(Scope scope, Findings findings) {
        this.scope = scope;
        this.findings = findings;
    }

    static Result check(Expression tree, Scope scope, Findings findings) {
        Checker checker = new Checker(scope, findings);
        Node node = checker.check(tree);
        Optional<Kind> kind = node.type instanceof Type.Of of ? Optional.of(of.kind()) : Optional.empty();
        return new Result(node.tree, kind, List.copyOf(checker.slots));
    }

    private Node check(Expression expression) {
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
            case Expression.Call call -> call(call);
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
        if (found.isEmpty()) {
            List<String> known = scope.shape().names();
            String fields = known.isEmpty() ? "There are no fields here." : "Fields here: " + shortList(known) + ".";
            findings.add(
                    name.span(),
                    ProblemCode.FIELD_UNKNOWN,
                    "No field " + name.name() + " stands above this formula.",
                    NearestNames.suggestion(name.name(), known, fields));
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
        Kind kind = scope.parameterKinds().get(parameter.name());
        if (kind == null) {
            findings.add(
                    parameter.span(),
                    ProblemCode.PARAMETER_UNKNOWN,
                    "The job has no parameter " + parameter.name() + ".",
                    NearestNames.suggestion(
                            parameter.name(), scope.parameterKinds().keySet(), "Declare it under parameters."));
            return BROKEN;
        }
        return new Node(new Checked.Constant(scope.parameters().get(parameter.name())), Type.of(kind));
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
        return truth(
                new Checked.And(
                        new Checked.Compare(Operator.GREATER_OR_EQUAL, operand.tree, low.tree),
                        new Checked.Compare(Operator.LESS_OR_EQUAL, operand.tree, high.tree)),
                between.negated());
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
                conditions.add(new Checked.Compare(Operator.EQUAL, operand.tree, condition.tree));
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
        return new Node(new Checked.Choose(branches, widened(results.getLast(), type)), type);
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

    private Node call(Expression.Call call) {
        List<Node> arguments = call.arguments().stream().map(this::check).toList();
        if (call.name().equals("coalesce")) {
            if (!counts(call, 1, Integer.MAX_VALUE)) {
                return BROKEN;
            }
            Type type = common(arguments, call.span(), "The arguments of coalesce");
            return new Node(
                    new Checked.FirstFilled(
                            arguments.stream().map(node -> widened(node, type)).toList()),
                    type);
        }
        if (call.name().equals("nullif")) {
            if (!counts(call, 2, 2)) {
                return BROKEN;
            }
            Node first = arguments.getFirst();
            requireAlike(first, arguments.getLast(), call.span());
            Checked equal = new Checked.Compare(Operator.EQUAL, first.tree, arguments.getLast().tree);
            return new Node(
                    new Checked.Choose(List.of(new Branch(equal, new Checked.Constant(null))), first.tree), first.type);
        }
        Optional<Function> function = FunctionTable.find(call.name());
        if (function.isEmpty()) {
            List<String> known = new ArrayList<>(List.of("coalesce", "nullif"));
            FunctionTable.all().forEach(one -> known.add(one.name()));
            findings.add(
                    call.nameSpan(),
                    ProblemCode.FUNCTION_UNKNOWN,
                    "There is no function " + call.name() + ".",
                    NearestNames.suggestion(call.name(), known, "Functions: " + String.join(", ", known) + "."));
            return BROKEN;
        }
        return invoke(call, function.get(), arguments);
    }

    private Node invoke(Expression.Call call, Function function, List<Node> arguments) {
        if (!counts(call, function.required(), function.parameters().size())) {
            return BROKEN;
        }
        List<Checked> trees = new ArrayList<>();
        for (int i = 0; i < arguments.size(); i++) {
            Kind wanted = function.parameters().get(i).kind();
            Node argument = arguments.get(i);
            if (!argument.type.fits(wanted)) {
                mismatch(
                        call.arguments().get(i).span(),
                        function.signature() + " needs " + wanted.word() + " here, but this is " + argument.type.word()
                                + ".",
                        "cast(… as " + wanted.word() + ") converts where that is meant.");
            }
            trees.add(widened(argument, wanted));
        }
        return new Node(new Checked.Invoke(function, trees), Type.of(function.result()));
    }

    private boolean counts(Expression.Call call, int least, int most) {
        int found = call.arguments().size();
        if (found >= least && found <= most) {
            return true;
        }
        String wanted = least == most
                ? String.valueOf(least)
                : most == Integer.MAX_VALUE ? "at least " + least : least + " to " + most;
        findings.add(
                call.span(),
                ProblemCode.ARGUMENT_COUNT,
                call.name() + " takes " + wanted + (wanted.equals("1") ? " argument" : " arguments") + ", but " + found
                        + " stand here.",
                FunctionTable.find(call.name())
                        .map(function -> "It is " + function.signature() + ".")
                        .orElse(""));
        return false;
    }

    private Checked wanted(Expression expression, Kind kind, String by) {
        Node node = check(expression);
        if (!node.type.fits(kind)) {
            mismatch(expression.span(), by + " needs " + kind.word() + ", but this is " + node.type.word() + ".", "");
        }
        return widened(node, kind);
    }

    private void requireAlike(Node left, Node right, Span span) {
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
    private Type common(List<Node> nodes, Span span, String what) {
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

    private static Checked widened(Node node, Type wanted) {
        return wanted instanceof Type.Of of ? widened(node, of.kind()) : node.tree;
    }

    private static Checked widened(Node node, Kind wanted) {
        return wanted == Kind.DECIMAL && node.type.is(Kind.INTEGER) ? new Checked.Widen(node.tree) : node.tree;
    }

    private static Node truth(Checked tree, boolean negated) {
        return new Node(negated ? new Checked.Not(tree) : tree, Type.of(Kind.BOOLEAN));
    }

    private static boolean isNumber(Type type) {
        return type.fits(Kind.DECIMAL);
    }

    private void mismatch(Span span, String sentence, @Nullable String remedy) {
        findings.add(span, ProblemCode.TYPE_MISMATCH, sentence, remedy == null ? "" : remedy);
    }
}

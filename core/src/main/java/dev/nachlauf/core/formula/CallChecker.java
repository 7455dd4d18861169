package dev.nachlauf.core.formula;

import dev.nachlauf.core.formula.Checker.Node;
import dev.nachlauf.core.formula.Scope.Surroundings;
import dev.nachlauf.core.function.Function;
import dev.nachlauf.core.function.Function.Body;
import dev.nachlauf.core.function.FunctionTable;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.record.Field;
import dev.nachlauf.core.record.Shape;
import dev.nachlauf.core.text.NearestNames;
import dev.nachlauf.core.text.Span;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.ValueProblem;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The part of the checker that knows calls: forms with rules of their own, functions, pieces and crosswalks. */
final class CallChecker {
    private final Checker checker;
    private final Scope scope;
    private final Surroundings surroundings;
    private final Findings findings;
    private final PieceCount pieces;

    CallChecker(Checker checker, Scope scope, Findings findings, PieceCount pieces) {
        this.checker = checker;
        this.scope = scope;
        this.surroundings = scope.surroundings();
        this.findings = findings;
        this.pieces = pieces;
    }

    Node check(Expression.Call call) {
        if (scope.aggregation() != null && Aggregation.WORDS.contains(call.name())) {
            int result =
                    scope.shape().fields().size() + scope.aggregation().calls().size();
            return scope.aggregation()
                    .call(call, findings)
                    .map(one -> new Node(new Checked.Slot(result), Type.of(one.kind())))
                    .orElse(Checker.BROKEN);
        }
        List<Node> arguments = call.arguments().stream().map(checker::check).toList();
        return switch (call.name()) {
            case "coalesce" -> coalesce(call, arguments);
            case "nullif" -> nullif(call, arguments);
            case "greatest" -> extreme(call, arguments, true);
            case "least" -> extreme(call, arguments, false);
            case "crosswalk" -> crosswalk(call, arguments);
            default -> named(call, arguments);
        };
    }

    private Node coalesce(Expression.Call call, List<Node> arguments) {
        if (!counts(call, 1, Integer.MAX_VALUE, "")) {
            return Checker.BROKEN;
        }
        Type type = checker.common(arguments, call.span(), "The arguments of coalesce");
        return new Node(new Checked.FirstFilled(widened(arguments, type)), type);
    }

    private Node nullif(Expression.Call call, List<Node> arguments) {
        if (!counts(call, 2, 2, "")) {
            return Checker.BROKEN;
        }
        Node first = arguments.getFirst();
        checker.requireAlike(first, arguments.getLast(), call.span());
        return new Node(new Checked.NullIf(first.tree(), arguments.getLast().tree()), first.type());
    }

    private Node extreme(Expression.Call call, List<Node> arguments, boolean greatest) {
        if (!counts(call, 1, Integer.MAX_VALUE, "")) {
            return Checker.BROKEN;
        }
        Type type = checker.common(arguments, call.span(), "The arguments of " + call.name());
        return new Node(new Checked.Extreme(widened(arguments, type), greatest), type);
    }

    private static List<Checked> widened(List<Node> arguments, Type type) {
        return arguments.stream().map(node -> Checker.widened(node, type)).toList();
    }

    private Node crosswalk(Expression.Call call, List<Node> arguments) {
        if (!counts(call, 2, 3, "It is crosswalk('name', value[, scope]).")) {
            return Checker.BROKEN;
        }
        if (!(arguments.getFirst().tree() instanceof Checked.Constant constant
                && constant.value() instanceof String name)) {
            checker.mismatch(
                    call.arguments().getFirst().span(),
                    "The name of a crosswalk is a text in single quotes, the same for every row.",
                    "");
            return Checker.BROKEN;
        }
        Translation translation = surroundings.translations().get(name);
        if (translation == null) {
            findings.add(
                    call.arguments().getFirst().span(),
                    ProblemCode.CROSSWALK_UNKNOWN,
                    "There is no crosswalk " + name + ".",
                    NearestNames.suggestion(name, surroundings.translations().keySet(), "Save it first."));
            return new Node(new Checked.Constant(null), Type.of(Kind.TEXT));
        }
        Checked scope = arguments.size() == 3 ? arguments.get(2).tree() : null;
        return new Node(new Checked.Translate(translation, arguments.get(1).tree(), scope), Type.of(Kind.TEXT));
    }

    private Node named(Expression.Call call, List<Node> arguments) {
        List<Function> functions = FunctionTable.find(call.name());
        Piece piece = surroundings.pieces().get(call.name());
        if (!functions.isEmpty()) {
            return invoke(call, functions, arguments);
        }
        if (piece != null) {
            return piece(call, piece, arguments);
        }
        List<String> known = new ArrayList<>(FunctionTable.names());
        known.addAll(surroundings.pieces().keySet());
        findings.add(
                call.nameSpan(),
                ProblemCode.FUNCTION_UNKNOWN,
                "There is no function " + call.name() + ".",
                NearestNames.suggestion(call.name(), known, "docs/formulas.md lists all functions."));
        return Checker.BROKEN;
    }

    private Node invoke(Expression.Call call, List<Function> functions, List<Node> arguments) {
        List<Function> counted = functions.stream()
                .filter(function -> arguments.size() >= function.required()
                        && arguments.size() <= function.parameters().size())
                .toList();
        Function first = functions.getFirst();
        if (counted.isEmpty()) {
            counts(call, first.required(), first.parameters().size(), "It is " + first.signature() + ".");
            return Checker.BROKEN;
        }
        Function function =
                counted.stream().filter(one -> fits(one, arguments)).findFirst().orElse(counted.getLast());
        List<Checked> trees = new ArrayList<>();
        for (int i = 0; i < arguments.size(); i++) {
            Kind wanted = function.parameters().get(i).kind();
            requireKind(call, i, arguments.get(i), wanted, function.signature());
            trees.add(Checker.widened(arguments.get(i), wanted));
        }
        return new Node(new Checked.Invoke(body(call, function, trees), trees), Type.of(function.result()));
    }

    private static boolean fits(Function function, List<Node> arguments) {
        for (int i = 0; i < arguments.size(); i++) {
            if (!arguments.get(i).type().fits(function.parameters().get(i).kind())) {
                return false;
            }
        }
        return true;
    }

    private void requireKind(Expression.Call call, int index, Node argument, Kind wanted, String signature) {
        if (!argument.type().fits(wanted)) {
            checker.mismatch(
                    call.arguments().get(index).span(),
                    signature + " needs " + wanted.word() + " here, but this is "
                            + argument.type().word() + ".",
                    "cast(… as " + wanted.word() + ") converts where that is meant.");
        }
    }

    /** What a constant argument spoils is found now, not row by row. */
    private Body body(Expression.Call call, Function function, List<Checked> arguments) {
        try {
            return function.preparation().prepare(constant(arguments, 1), constant(arguments, 2));
        } catch (ValueProblem problem) {
            findings.add(call.span(), problem.code(), problem.sentence(), "");
            return (a, b, c) -> null;
        }
    }

    private static @Nullable Object constant(List<Checked> arguments, int index) {
        return arguments.size() > index && arguments.get(index) instanceof Checked.Constant constant
                ? constant.value()
                : null;
    }

    /** A piece is checked anew for each call; it sees its parameters and the pieces other than itself. */
    private Node piece(Expression.Call call, Piece piece, List<Node> arguments) {
        int wanted = piece.takes().size();
        if (!counts(call, wanted, wanted, "It is " + piece.signature() + ".")) {
            return Checker.BROKEN;
        }
        if (!pieces.add()) {
            findings.add(
                    call.span(),
                    ProblemCode.FORMULA_TOO_LARGE,
                    "The formula calls more than " + PieceCount.MOST + " pieces.",
                    "Split it with set.");
            return Checker.BROKEN;
        }
        List<Checked> trees = new ArrayList<>();
        for (int i = 0; i < wanted; i++) {
            Field parameter = piece.takes().get(i);
            requireKind(call, i, arguments.get(i), parameter.kind(), piece.signature());
            trees.add(Checker.widened(arguments.get(i), parameter.kind()));
        }
        Map<String, Piece> others = new HashMap<>(surroundings.pieces());
        others.remove(piece.name());
        Scope inside = new Scope(
                new Shape(piece.takes()),
                new Surroundings(Map.of(), surroundings.facts(), surroundings.translations(), others));
        Findings within = new Findings(piece.formula(), findings.problems());
        try {
            Expression tree = Parser.parse(Lexer.tokens(piece.formula().text(), within), within);
            Checker.Result body = Checker.check(tree, inside, within, pieces);
            return new Node(
                    new Checked.CallPiece(body.tree(), trees),
                    body.kind().map(Type::of).orElse(Type.NULL));
        } catch (Findings.Stop e) {
            // said already
            return Checker.BROKEN;
        }
    }

    private boolean counts(Expression.Call call, int least, int most, String remedy) {
        int found = call.arguments().size();
        if (found >= least && found <= most) {
            return true;
        }
        String wanted = least == most
                ? String.valueOf(least)
                : most == Integer.MAX_VALUE ? "at least " + least : least + " to " + most;
        Span span = call.span();
        findings.add(
                span,
                ProblemCode.ARGUMENT_COUNT,
                call.name() + " takes " + wanted + (wanted.equals("1") ? " argument" : " arguments") + ", but " + found
                        + " stand here.",
                remedy);
        return false;
    }
}

package dev.nachlauf.core.formula;

import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.Span;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A formula that passed its check.
 *
 * @param source its text and place
 * @param kind the kind of its values; empty when it is always null
 * @param slots the slots it reads
 * @param evaluator what computes it
 * @param requirements what has to be so of single slots where it is true
 */
public record Formula(
        FormulaSource source,
        Optional<Kind> kind,
        List<Integer> slots,
        Evaluator evaluator,
        List<Requirement> requirements) {
    /** The longest text of a formula, in UTF-16 units. */
    public static final int LONGEST = 20_000;

    /** Whether it is nothing but a field as it is. */
    public boolean isField() {
        return evaluator instanceof Operand operand && operand.isSlot();
    }

    /**
     * Lexes, parses, checks and compiles. All problems that can be told apart are added to {@code problems}; the result
     * is empty when there was one.
     */
    public static Optional<Formula> check(FormulaSource source, Scope scope, List<Problem> problems) {
        List<Problem> found = new ArrayList<>();
        Findings findings = new Findings(source, found);
        Optional<Formula> formula = Optional.empty();
        if (source.text().length() > LONGEST) {
            findings.add(
                    new Span(0, 1),
                    ProblemCode.FORMULA_TOO_LARGE,
                    "The formula is longer than " + LONGEST + " characters.",
                    "Split it with set.");
        } else {
            try {
                Expression tree = Parser.parse(Lexer.tokens(source.text(), findings), findings);
                Checker.Result result = Checker.check(tree, scope, findings);
                if (found.isEmpty()) {
                    formula = Optional.of(new Formula(
                            source,
                            result.kind(),
                            result.slots(),
                            Compiler.compile(result.tree()),
                            Requirement.of(result.tree())));
                }
            } catch (Findings.Stop e) {
                // said already
            }
        }
        problems.addAll(found);
        return formula;
    }

    /** Checks a formula that must have a certain kind; an integer is taken for a decimal. */
    public static Optional<Formula> check(FormulaSource source, Scope scope, Kind wanted, List<Problem> problems) {
        Optional<Formula> formula = check(source, scope, problems);
        if (formula.isPresent()
                && !formula.get().kind().map(Type::of).orElse(Type.NULL).fits(wanted)) {
            problems.add(Problem.at(
                    source.place(),
                    ProblemCode.TYPE_MISMATCH,
                    "This is " + formula.get().kind().orElseThrow().word() + ", but " + wanted.word() + " is wanted.",
                    "cast(… as " + wanted.word() + ") converts where that is meant."));
            return Optional.empty();
        }
        return formula;
    }
}

package dev.nachlauf.core.formula;

import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What lets a formula speak of many rows: {@code sum}, {@code count}, {@code min}, {@code max}, {@code first} and {@code
 * last}. Inside of such a call the fields of a row are seen; outside of it only what the rows have in common. The calls
 * are collected while the formula is checked; whoever evaluates it puts their results behind the common fields.
 */
public final class Aggregation {
    /** The words. */
    public static final Set<String> WORDS = Set.of("sum", "count", "min", "max", "first", "last");

    private final Scope rows;
    private final List<Call> calls = new ArrayList<>();

    /** An aggregation over rows of a scope. */
    public Aggregation(Scope rows) {
        this.rows = rows;
    }

    /**
     * One aggregate.
     *
     * @param argument what is aggregated of each row; null where rows are counted
     * @param kind the kind of the result
     * @param slots what the argument reads of a row
     */
    public record Call(Word word, @Nullable Evaluator argument, Kind kind, List<Integer> slots) {}

    /** What is done with many values. Nulls are left out by all of them. */
    public enum Word {
        SUM,
        COUNT,
        MIN,
        MAX,
        FIRST,
        LAST
    }

    /** The aggregates that were found, in the order of their results. */
    public List<Call> calls() {
        return List.copyOf(calls);
    }

    /** Checks a call; the index of its result, and its kind; empty where something is wrong, which is said. */
    Optional<Call> call(Expression.Call call, Findings findings) {
        if (call.arguments().size() > 1
                || call.arguments().isEmpty() && !call.name().equals("count")) {
            findings.add(
                    call.span(),
                    ProblemCode.ARGUMENT_COUNT,
                    call.name() + " takes 1 argument, but " + call.arguments().size() + " stand here.",
                    call.name().equals("count") ? "count() counts rows, count(x) those where x is not null." : "");
            return Optional.empty();
        }
        Word word = Word.valueOf(call.name().toUpperCase(java.util.Locale.ROOT));
        if (call.arguments().isEmpty()) {
            return Optional.of(added(new Call(word, null, Kind.INTEGER, List.of())));
        }
        int before = findings.problems().size();
        Checker.Result argument = Checker.check(call.arguments().getFirst(), rows, findings);
        Kind kind = argument.kind().orElse(Kind.TEXT);
        if (word == Word.SUM && !kind.isNumber() && findings.problems().size() == before) {
            findings.add(
                    call.span(),
                    ProblemCode.TYPE_MISMATCH,
                    "sum needs a number, but this is " + kind.word() + ".",
                    "cast(… as decimal) converts where that is meant.");
        }
        if (findings.problems().size() > before) {
            return Optional.empty();
        }
        return Optional.of(added(new Call(
                word, Compiler.compile(argument.tree()), word == Word.COUNT ? Kind.INTEGER : kind, argument.slots())));
    }

    private Call added(Call call) {
        calls.add(call);
        return call;
    }
}

package dev.nachlauf.core.formula;

import dev.nachlauf.core.function.Function;
import dev.nachlauf.core.value.Kind;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The tree after the check: names are slots, kinds are known, and there are fewer forms than people can write. */
sealed interface Checked {
    record Constant(@Nullable Object value) implements Checked {}

    record Slot(int index) implements Checked {}

    record Not(Checked operand) implements Checked {}

    record And(Checked left, Checked right) implements Checked {}

    record Or(Checked left, Checked right) implements Checked {}

    record Compare(Expression.Operator operator, Checked left, Checked right) implements Checked {}

    record Arithmetic(Expression.Operator operator, Kind kind, Checked left, Checked right) implements Checked {}

    /** A date, time or timestamp moved by an interval. */
    record Move(Checked operand, Interval interval, boolean plus) implements Checked {}

    record Extract(Checked operand, DatePart part) implements Checked {}

    record Concat(Checked left, Checked right) implements Checked {}

    record IsNull(Checked operand) implements Checked {}

    /** Whether a truth is this one; null for unknown. */
    record IsTruth(Checked operand, @Nullable Boolean value) implements Checked {}

    record IsDistinct(Checked left, Checked right) implements Checked {}

    record Between(Checked operand, Checked low, Checked high) implements Checked {}

    record In(Checked operand, List<Checked> list) implements Checked {}

    record Like(Checked operand, Checked pattern, @Nullable Checked escape) implements Checked {}

    /** Without else the constant null stands in {@code otherwise}. */
    record Choose(List<Branch> branches, Checked otherwise) implements Checked {}

    /** The operand is computed once, and compared with the values one after the other. */
    record ChooseBy(Checked operand, List<Branch> branches, Checked otherwise) implements Checked {}

    /** {@code condition} is a value to compare with in a {@link ChooseBy}. */
    record Branch(Checked condition, Checked result) {}

    record FirstFilled(List<Checked> operands) implements Checked {}

    record NullIf(Checked operand, Checked other) implements Checked {}

    /** The largest or smallest; nulls are left out. */
    record Extreme(List<Checked> operands, boolean greatest) implements Checked {}

    /** Integer to decimal, where a decimal is wanted. */
    record Widen(Checked operand) implements Checked {}

    record Cast(Checked operand, Kind kind, int length, int precision, int scale) implements Checked {}

    record Invoke(Function.Body body, List<Checked> arguments) implements Checked {}

    record Translate(
            Translation translation,
            Checked operand,
            @Nullable Checked scope) implements Checked {}

    /** The body sees the arguments as its slots. */
    record CallPiece(Checked body, List<Checked> arguments) implements Checked {}
}

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

    record Concat(Checked left, Checked right) implements Checked {}

    record IsNull(Checked operand) implements Checked {}

    record IsDistinct(Checked left, Checked right) implements Checked {}

    record In(Checked operand, List<Checked> list) implements Checked {}

    record Like(Checked operand, Checked pattern, @Nullable Checked escape) implements Checked {}

    /** Without else the constant null stands in {@code otherwise}. */
    record Choose(List<Branch> branches, Checked otherwise) implements Checked {}

    record Branch(Checked condition, Checked result) {}

    record FirstFilled(List<Checked> operands) implements Checked {}

    /** Integer to decimal, where a decimal is wanted. */
    record Widen(Checked operand) implements Checked {}

    record Cast(Checked operand, Kind kind, int length, int precision, int scale) implements Checked {}

    record Invoke(Function function, List<Checked> arguments) implements Checked {}
}

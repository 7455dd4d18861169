package dev.nachlauf.core.formula;

import dev.nachlauf.core.formula.Expression.Operator;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What has to be so of one slot where a formula is true, so that whoever has many rows needs to compute it of few. It says
 * less than the formula: not every row that meets all requirements makes it true.
 */
public sealed interface Requirement {
    int slot();

    /** The slot equals one of some values. */
    record Among(int slot, List<Object> values) implements Requirement {
        public Among {
            values = List.copyOf(values);
        }
    }

    /** The slot equals a value or is greater; never a text, for every system has an order of its own for them. */
    record AtLeast(int slot, Object value) implements Requirement {}

    /** Those of a formula that is checked. */
    static List<Requirement> of(Checked tree) {
        return switch (tree) {
            case Checked.And and ->
                Stream.concat(of(and.left()).stream(), of(and.right()).stream()).toList();
            case Checked.Compare compare -> compared(compare);
            case Checked.Between between ->
                atLeast(between.operand(), between.low()).stream().toList();
            case Checked.In in -> among(in.operand(), in.list()).stream().toList();
            default -> List.of();
        };
    }

    private static List<Requirement> compared(Checked.Compare compare) {
        Operator operator = compare.operator();
        Optional<? extends Requirement> found = switch (operator) {
            case EQUAL ->
                slot(compare.left()).isPresent()
                        ? among(compare.left(), List.of(compare.right()))
                        : among(compare.right(), List.of(compare.left()));
            case GREATER, GREATER_OR_EQUAL -> atLeast(compare.left(), compare.right());
            case LESS, LESS_OR_EQUAL -> atLeast(compare.right(), compare.left());
            default -> Optional.empty();
        };
        return found.<Requirement>map(one -> one).stream().toList();
    }

    private static Optional<Requirement> among(Checked operand, List<Checked> list) {
        Optional<Integer> slot = slot(operand);
        List<Object> values = new ArrayList<>();
        for (Checked one : list) {
            if (!(one instanceof Checked.Constant constant)) {
                return Optional.empty();
            }
            // nothing equals null
            if (constant.value() != null) {
                values.add(constant.value());
            }
        }
        return slot.isEmpty() || values.isEmpty() ? Optional.empty() : Optional.of(new Among(slot.get(), values));
    }

    private static Optional<Requirement> atLeast(Checked operand, Checked least) {
        Optional<Integer> slot = slot(operand);
        @Nullable Object value = least instanceof Checked.Constant constant ? constant.value() : null;
        return slot.isEmpty() || value == null || value instanceof String
                ? Optional.empty()
                : Optional.of(new AtLeast(slot.get(), Objects.requireNonNull(value)));
    }

    private static Optional<Integer> slot(Checked tree) {
        return switch (tree) {
            case Checked.Slot slot -> Optional.of(slot.index());
            case Checked.Widen widen -> slot(widen.operand());
            default -> Optional.empty();
        };
    }
}

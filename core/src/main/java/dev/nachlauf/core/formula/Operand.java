package dev.nachlauf.core.formula;

import org.jspecify.annotations.Nullable;

/**
 * A part of a formula. Slots and constants are read in place and anything else by its closure; as this is one final
 * class, only what really computes costs a call that can't be foreseen.
 */
final class Operand implements Evaluator {
    private static final int NONE = -1;

    private final int slot;
    private final @Nullable Object constant;
    private final @Nullable Evaluator computed;

    private Operand(int slot, @Nullable Object constant, @Nullable Evaluator computed) {
        this.slot = slot;
        this.constant = constant;
        this.computed = computed;
    }

    static Operand slot(int index) {
        return new Operand(index, null, null);
    }

    static Operand constant(@Nullable Object value) {
        return new Operand(NONE, value, null);
    }

    static Operand computed(Evaluator closure) {
        return new Operand(NONE, null, closure);
    }

    boolean isSlot() {
        return slot >= 0;
    }

    @Override
    public @Nullable Object evaluate(@Nullable Object[] row) {
        if (slot >= 0) {
            Object value = row[slot];
            if (value == BrokenInput.VALUE) {
                throw BrokenInput.INSTANCE;
            }
            return value;
        }
        return computed == null ? constant : computed.evaluate(row);
    }
}

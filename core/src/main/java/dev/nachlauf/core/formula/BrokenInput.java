package dev.nachlauf.core.formula;

/**
 * Thrown when a formula needs a slot whose own problem is already noted: it has no value and no second problem. One
 * shared instance without a trace, for it is thrown in the row path.
 */
public final class BrokenInput extends RuntimeException {
    private static final long serialVersionUID = 1L;

    /** Stands in a slot whose value could not be read or computed. */
    public static final Object VALUE = new Object() {
        @Override
        public String toString() {
            return "(no value)";
        }
    };

    static final BrokenInput INSTANCE = new BrokenInput();

    private BrokenInput() {
        super(null, null, false, false);
    }
}

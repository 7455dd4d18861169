package dev.nachlauf.core.formula;

/** How many pieces a formula has called, those that pieces call included: it bounds what hostile pieces can cost. */
final class PieceCount {
    static final int MOST = 1_000;

    private int count;

    /** Counts one more; false where that is too many. */
    boolean add() {
        return ++count <= MOST;
    }
}

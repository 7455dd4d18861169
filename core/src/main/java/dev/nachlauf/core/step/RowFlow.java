package dev.nachlauf.core.step;

import org.jspecify.annotations.Nullable;

/** Rows one after the other. A step takes a flow and is one. */
public interface RowFlow extends AutoCloseable {
    /** The next row; null at the end. Rows that are left out, and those that a step above kept back, pass
     * through every step untouched. */
    @Nullable
    FlowRow next();

    /** How many source rows were read so far. */
    long read();

    @Override
    void close();
}

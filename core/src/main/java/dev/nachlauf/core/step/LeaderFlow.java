package dev.nachlauf.core.step;

import org.jspecify.annotations.Nullable;

/**
 * Gives each group the leader that is left at the end of the steps: the first of its rows that no step has skipped. Rows
 * of a group stand together.
 */
final class LeaderFlow implements RowFlow {
    private static final long NONE = -1;

    private final RowFlow rows;
    private long group = NONE;
    private long leader = NONE;

    LeaderFlow(RowFlow rows) {
        this.rows = rows;
    }

    @Override
    public @Nullable FlowRow next() {
        FlowRow row = rows.next();
        if (row == null) {
            return null;
        }
        if (row.group() != group) {
            group = row.group();
            leader = NONE;
        }
        if (leader == NONE && row.skipped() == null) {
            leader = row.position();
        }
        // skipped rows behind the leader stay, so that no batch ends between the others
        row.joinGroup(leader == NONE ? row.position() : leader);
        return row;
    }

    @Override
    public long read() {
        return rows.read();
    }

    @Override
    public void close() {
        rows.close();
    }
}

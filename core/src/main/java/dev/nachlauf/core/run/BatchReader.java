package dev.nachlauf.core.run;

import dev.nachlauf.core.load.LoadPlanner;
import dev.nachlauf.core.spool.RepeatedKeys;
import dev.nachlauf.core.step.FlowRow;
import dev.nachlauf.core.step.Mapper;
import dev.nachlauf.core.step.RowFlow;
import dev.nachlauf.core.step.TargetRow;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** The second pass: rows behind the steps into batches. Batches that are done already are only counted. */
final class BatchReader implements AutoCloseable {
    private static final long MOST_CHARACTERS = 8L * 1024 * 1024;
    private static final int TYPED_CELL = 8;

    private final RowFlow rows;
    private final Mapper mapper;
    private final List<RepeatedKeys> repeated;
    private final Set<Integer> done;
    private final int batchRows;
    private @Nullable FlowRow ahead;
    private int number;

    BatchReader(RowFlow rows, Mapper mapper, List<RepeatedKeys> repeated, Set<Integer> done, int batchRows) {
        this.rows = rows;
        this.mapper = mapper;
        this.repeated = repeated;
        this.done = done;
        this.batchRows = batchRows;
        this.ahead = rows.next();
    }

    /** The next batch that is not done; null at the end. */
    @Nullable
    Batch next() {
        while (ahead != null) {
            boolean skip = done.contains(number);
            List<TargetRow> batch = new ArrayList<>(skip ? 0 : batchRows);
            long characters = 0;
            int count = 0;
            FlowRow row = ahead;
            while (row != null) {
                count++;
                characters += characters(row);
                if (!skip) {
                    batch.add(checked(mapper.map(row)));
                }
                FlowRow following = rows.next();
                ahead = following;
                boolean full = count >= batchRows || characters >= MOST_CHARACTERS;
                row = following == null || endsBetween(row, following, full) ? null : following;
            }
            int current = number++;
            if (!skip) {
                return new Batch(current, batch);
            }
        }
        return null;
    }

    /** A group stays together; children wait until their parents are written. */
    private static boolean endsBetween(FlowRow row, FlowRow following, boolean full) {
        return following.generation() != row.generation() || full && following.group() != row.group();
    }

    private TargetRow checked(TargetRow row) {
        TargetRow checked = row;
        for (RepeatedKeys keys : repeated) {
            long other = row.skipped() == null ? keys.otherRow(row.row().position()) : 0;
            if (other != 0) {
                Object[] key = Objects.requireNonNullElse(row.key(), new Object[0]);
                checked = checked.rejected(LoadPlanner.repeatedKey(key, other));
            }
        }
        return checked;
    }

    private static long characters(FlowRow row) {
        long characters = 0;
        for (Object cell : row.source().cells()) {
            characters += cell instanceof String text ? text.length() + 1 : TYPED_CELL;
        }
        return characters;
    }

    @Override
    public void close() {
        rows.close();
    }
}
